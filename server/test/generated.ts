import fc, { type Arbitrary } from 'fast-check'

/** A JSON Schema, as far as ours go. */
export interface Schema {
  readonly type?: string
  readonly anyOf?: readonly Schema[]
  readonly enum?: readonly unknown[]
  readonly const?: unknown
  readonly pattern?: string
  readonly properties?: Readonly<Record<string, Schema>>
  readonly required?: readonly string[]
  readonly patternProperties?: Readonly<Record<string, Schema>>
  readonly additionalProperties?: boolean | Schema
  readonly items?: Schema
  readonly minItems?: number
  readonly maxItems?: number
  readonly minimum?: number
  readonly maximum?: number
  readonly maxLength?: number
}

/** What texts mean something somewhere: the names, identities and refs of the workspace, and what has broken programs before. */
const hostile = [
  '',
  ' ',
  '\u0000',
  '\ud800',
  "'; DROP TABLE item; --",
  '__proto__',
  'constructor',
  '%00',
  '../../etc',
  '<script>alert(1)</script>',
  '🛳️'.repeat(20),
  'x'.repeat(5000),
  '-1',
  '1e309',
  'NaN',
  '9999-12-31',
  '0000-00-00',
  '\\',
  "\\'",
  '%',
  '_',
  '{"op":"and","args":[]}',
  'null',
  'TRUE',
  '٣',
  'ﬀ',
  'İ',
  '\u202e',
]

export const textOf = (known: readonly string[]): Arbitrary<string> =>
  fc.oneof(
    { weight: 6, arbitrary: fc.constantFrom(...known) },
    { weight: 2, arbitrary: fc.constantFrom(...hostile) },
    { weight: 1, arbitrary: fc.string({ maxLength: 40 }) },
    { weight: 1, arbitrary: fc.string({ unit: 'binary', maxLength: 20 }) },
  )

const junk: Arbitrary<unknown> = fc.oneof(
  fc.constantFrom<unknown>(null, true, false, 0, -1, 1e308, 2 ** 53, 0.1, '', [], {}, [[]], {
    op: 'and',
  }),
  fc.jsonValue({ maxDepth: 3 }),
)

/** Values that mostly fit a schema, and sometimes, anywhere in them, do not. */
export function valueOf(schema: Schema, known: readonly string[], depth = 0): Arbitrary<unknown> {
  const fitting = fittingOf(schema, known, depth)
  return fc.oneof({ weight: 24, arbitrary: fitting }, { weight: 1, arbitrary: junk })
}

function fittingOf(schema: Schema, known: readonly string[], depth: number): Arbitrary<unknown> {
  if (schema.const !== undefined) return fc.constant(schema.const)
  if (schema.enum) return fc.constantFrom(...schema.enum)
  if (schema.anyOf) return fc.oneof(...schema.anyOf.map((choice) => valueOf(choice, known, depth)))
  switch (schema.type) {
    case 'string':
      return textOf(schema.pattern ? fitting(known, schema.pattern) : known)
    case 'integer':
      return fc.oneof(
        fc.integer({ min: schema.minimum ?? -5, max: schema.maximum ?? 2000 }),
        fc.constantFrom(0, -1, 2 ** 31, 1e15),
      )
    case 'number':
      return fc.oneof(
        fc.double({ noNaN: true, noDefaultInfinity: true }),
        fc.integer({ min: -5, max: 100 }),
      )
    case 'boolean':
      return fc.boolean()
    case 'null':
      return fc.constant(null)
    case 'array':
      return fc.array(valueOf(schema.items ?? {}, known, depth + 1), {
        minLength: Math.min(schema.minItems ?? 0, 3),
        maxLength: Math.min(schema.maxItems ?? 3, 4),
      })
    case 'object':
      return objectOf(schema, known, depth)
    default:
      return depth > 3 ? junk : fc.oneof(junk, textOf(known))
  }
}

const fitting = (known: readonly string[], pattern: string): readonly string[] => {
  const found = known.filter((text) => new RegExp(pattern, 'u').test(text))
  return found.length > 0 ? found : known
}

function objectOf(schema: Schema, known: readonly string[], depth: number): Arbitrary<unknown> {
  const entries = Object.entries(schema.properties ?? {}).map(
    ([name, part]) => [name, valueOf(part, known, depth + 1)] as const,
  )
  const own = fc.record(Object.fromEntries(entries), {
    requiredKeys: [...(schema.required ?? [])] as never[],
  })
  const more = Object.entries(schema.patternProperties ?? {})[0]
  return more
    ? fc.dictionary(textOf(fitting(known, more[0])), valueOf(more[1], known, depth + 1), {
        maxKeys: 3,
      })
    : own
}
