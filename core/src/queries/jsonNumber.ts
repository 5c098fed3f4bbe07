/** A JSON number; one that JSON readers would round travels as text under `decimal`, so that nothing is lost. */
export function numberJson(text: string): number | { op: 'decimal'; args: [string] } {
  const value = Number(text)
  return exactly(text, value) ? value : { op: 'decimal', args: [text] }
}

/** Whether a decimal text keeps its digits as a number of double precision. */
export const isExact = (text: string): boolean => exactly(text, Number(text))

function exactly(text: string, value: number): boolean {
  const digits = text
    .replace(/[eE].*$/, '')
    .replace(/[-+.]/g, '')
    .replace(/^0+|0+$/g, '')
  return Number.isFinite(value) && digits.length <= 15
}
