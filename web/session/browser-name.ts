const NAMES: [RegExp, string][] = [
  [/Firefox\//, 'Firefox'],
  [/Edg\//, 'Edge'],
  [/OPR\//, 'Opera'],
  [/Chrom(e|ium)\//, 'Chromium'],
  [/Safari\//, 'Safari'],
]
const SYSTEMS: [RegExp, string][] = [
  [/Windows/, 'Windows'],
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Mac OS X/, 'macOS'],
  [/Linux/, 'Linux'],
]

const first = (table: [RegExp, string][], text: string) => table.find(([known]) => known.test(text))?.[1]

/** What a browser calls itself, in two words. */
export const browserName = (userAgent: string): string =>
  [first(NAMES, userAgent) ?? 'A browser', first(SYSTEMS, userAgent)].filter((part) => part !== undefined).join(' on ')
