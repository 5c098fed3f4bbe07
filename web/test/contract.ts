import { Ajv2020 } from 'ajv/dist/2020.js'
import { afterEach, expect } from 'vitest'
import { contracts } from '@bluestem/core/contract'
import type { Contract } from '@bluestem/core/schema'

const ajv = new Ajv2020({ strict: false })

interface Pattern {
  readonly method: string
  readonly path: RegExp
  readonly contract: Contract
}

const patterns: readonly Pattern[] = Object.entries<Contract>(contracts).map(
  ([route, contract]) => {
    const [method, path] = route.split(' ') as [string, string]
    return { method, path: new RegExp(`^${path.replaceAll(/\{\w+\}/g, '[^/]+')}$`), contract }
  },
)

/** A path that names no parameter is meant before one that does. */
const contractOf = (method: string, path: string): Contract | undefined =>
  (contracts as Readonly<Record<string, Contract>>)[`${method} ${path}`] ??
  patterns.find((pattern) => pattern.method === method && pattern.path.test(path))?.contract

let broken: string[] = []
afterEach(() => {
  const found = broken
  broken = []
  expect(found).toEqual([])
})

const judge = (schema: Contract['answer'], value: unknown, what: string): void => {
  if (!schema) {
    if (value !== undefined) broken.push(`${what}: nothing is meant to be there`)
    return
  }
  const validate = ajv.compile(schema)
  if (!validate(value)) broken.push(`${what}: ${JSON.stringify(validate.errors?.[0])}`)
}

/** Judges what a screen sends, and what a test answers in the server's place: a screen is never tested against what no server says. */
export function judgeByContract(
  {
    method,
    path,
    body,
  }: { readonly method: string; readonly path: string; readonly body: unknown },
  answered: { readonly status: number; readonly body: unknown },
): void {
  const route = `${method} ${path.split('?')[0]}`
  const contract = contractOf(method, path.split('?')[0]!)
  if (!contract) return void broken.push(`${route}: there is no such endpoint`)
  // What is refused may be anything, and so may the refusal.
  if (answered.status >= 400) return
  if (body !== undefined) judge(contract.body, body, `what ${route} is sent`)
  judge(contract.answer, answered.body, `what ${route} answers`)
}
