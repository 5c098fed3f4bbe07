import { describe, expect, it } from 'vitest'
import vectors from './vectors/cql2-text.json' with { type: 'json' }
import { fromJson } from './json.ts'
import { type Cql2Json, toJson } from './toJson.ts'
import { parse } from './parser.ts'
import { print } from './print.ts'

interface Case {
  name: string
  source: string
  input: { text?: string; parts?: [string, number][] }
  expected: { valid: boolean; json?: Cql2Json; errorBetween?: [number, number] }
  orJson?: Cql2Json[]
}

const textOf = ({ input }: Case): string =>
  input.text ?? input.parts!.map(([piece, times]) => piece.repeat(times)).join('')

/** AND in AND and OR in OR mean the same flat; the reference writes them flat. */
function flat(json: Cql2Json): Cql2Json {
  if (Array.isArray(json)) return json.map(flat)
  if (json === null || typeof json !== 'object') return json
  const inner = Object.fromEntries(Object.entries(json).map(([key, value]) => [key, flat(value)]))
  if ((inner['op'] !== 'and' && inner['op'] !== 'or') || !Array.isArray(inner['args'])) return inner
  const args = inner['args'].flatMap((arg) =>
    arg !== null && typeof arg === 'object' && !Array.isArray(arg) && arg['op'] === inner['op']
      ? (arg['args'] as Cql2Json[])
      : [arg],
  )
  return { op: inner['op'], args }
}

/** Positions and case of function names are no part of the meaning. */
const meaning = (text: string): Cql2Json => {
  const parsed = parse(text)
  if (!parsed.ok) throw new Error(`${text}: ${parsed.errors[0]!.message}`)
  return flat(toJson(parsed.value))
}

describe('the grammar of CQL2 text (OGC 21-065r2; cases and their sources in vectors/cql2-text.json)', () => {
  it.each((vectors as unknown as Case[]).map((vector) => [vector.name, vector] as const))(
    '%s',
    (_, entry) => {
      const parsed = parse(textOf(entry))
      if (entry.expected.valid === false) {
        expect(parsed.ok).toBe(false)
        if (parsed.ok) return
        const [from, to] = entry.expected.errorBetween ?? [0, Infinity]
        expect(parsed.errors[0]!.from).toBeGreaterThanOrEqual(from)
        expect(parsed.errors[0]!.from).toBeLessThanOrEqual(to)
        return
      }
      if (!parsed.ok) throw new Error(JSON.stringify(parsed.errors))
      const json = flat(toJson(parsed.value))
      const right = [entry.expected.json, ...(entry.orJson ?? [])]
        .filter((each) => each !== undefined)
        .map(flat)
      if (right.length > 0) expect(right).toContainEqual(json)
      const read = fromJson(json)
      expect(read.ok && flat(toJson(read.value))).toEqual(json)
      const printed = print(parsed.value)
      if (printed.ok) expect(meaning(printed.text)).toEqual(json)
    },
  )
})
