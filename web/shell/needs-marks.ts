/** Whether the page at an address needs the marks: Set out (which opens where no stop is named), Mark and the post do not. */
export const needsMarks = (pathname: string): boolean => !['set-out', 'mark', 'post', '', undefined].includes(pathname.split('/')[3])
