/** One thing wrong with a document: where, as a JSON pointer, what it is and what would do. */
export interface Problem {
  readonly pointer: string
  readonly message: string
  readonly expected?: string
  readonly found?: string
}

export const pointer = (...path: string[]): string =>
  path.map((key) => `/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`).join('')
