/** Whether the page at an address needs the marks: the first stop does not, and opens where no stop is named. */
export const needsMarks = (pathname: string): boolean => !['set-out', 'mark', 'post', '', undefined].includes(pathname.split('/')[3])
