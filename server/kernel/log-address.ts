/** An address as it stands in the log: without what is asked for, and without what lets whoever has it in. */
export const addressInLog = (url: string): string => url.split('?', 1)[0]!.replace(/^(\/api\/calendars\/)[^/]+/, '$1…')
