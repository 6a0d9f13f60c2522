/** Whether an address is reached from this machine alone. */
export const isLoopback = (host: string): boolean => host === 'localhost' || host === '::1' || /^127\.\d+\.\d+\.\d+$/.test(host)
