import { ApiProblem, call, partsOf } from './http.ts'

/** The ref of an item that went to another project meanwhile; undefined for one that did not. */
export async function whereItWent(itemRef: string): Promise<string | undefined> {
  try {
    await call('GET /items/{code}/{number}', { params: partsOf(itemRef) })
    return undefined
  } catch (error) {
    const moved = error instanceof ApiProblem ? error.more['moved'] : undefined
    return typeof moved === 'string' ? moved : undefined
  }
}
