import fc from 'fast-check'
import { addDays } from '../src/calendar/index.ts'
import { quoteText, type Property, type Vocabulary } from '../src/queries/index.ts'

/** What filters are generated from: names of the vocabulary, and values that occur in the data. */
export interface Source {
  readonly vocabulary: Vocabulary
  readonly today: string
  readonly refs: readonly string[]
  readonly texts: readonly string[]
}

const compare = fc.constantFrom('=', '<>', '<', '>', '<=', '>=')
const equality = fc.constantFrom('=', '<>')

/** Generates CQL2 texts whose every part depends on the item alone: the language of the evaluator. */
export function ownFilter(source: Source): fc.Arbitrary<string> {
  const properties = [...source.vocabulary.properties.values()].filter(
    (property) =>
      !property.orderOnly &&
      property.leftOf === undefined &&
      property.handle !== 'parent' &&
      property.computed?.kind !== 'roll-up',
  )
  const leaf = fc.oneof(
    {
      weight: 8,
      arbitrary: fc.constantFrom(...properties).chain((property) => predicate(source, property)),
    },
    { weight: 3, arbitrary: functionPredicate(source) },
    { weight: 2, arbitrary: arithmeticPredicate() },
  )
  const { tree } = fc.letrec<{ tree: string; node: string }>((tie) => ({
    tree: fc.oneof({ maxDepth: 3, withCrossShrink: true }, leaf, tie('node')),
    node: fc.oneof(
      fc
        .array(tie('tree'), { minLength: 2, maxLength: 3 })
        .map((parts) => `(${parts.join(' AND ')})`),
      fc
        .array(tie('tree'), { minLength: 2, maxLength: 3 })
        .map((parts) => `(${parts.join(' OR ')})`),
      tie('tree').map((part) => `NOT (${part})`),
    ),
  }))
  return tree
}

function predicate(source: Source, property: Property): fc.Arbitrary<string> {
  const { handle, type } = property
  const empty = fc.constantFrom(`${handle} IS NULL`, `${handle} IS NOT NULL`)
  switch (type.kind) {
    case 'number':
      return fc.oneof(
        fc.tuple(compare, decimal()).map(([op, value]) => `${handle} ${op} ${value}`),
        fc.tuple(decimal(), decimal()).map(([low, high]) => `${handle} BETWEEN ${low} AND ${high}`),
        fc
          .array(decimal(), { minLength: 1, maxLength: 4 })
          .map((list) => `${handle} IN (${list.join(', ')})`),
        empty,
      )
    case 'text':
      return textPredicate(source, handle, empty)
    case 'boolean':
      return fc.oneof(
        fc
          .tuple(equality, fc.constantFrom('TRUE', 'FALSE'))
          .map(([op, value]) => `${handle} ${op} ${value}`),
        empty,
      )
    case 'date':
    case 'timestamp':
      return momentPredicate(source, handle, type.kind, empty)
    case 'choice':
      return choicePredicate(source, handle, type.domain, empty)
    case 'array':
      return arrayPredicate(source, handle, type.domain, empty)
    case 'interval':
      return empty
  }
}

const decimal = (): fc.Arbitrary<string> =>
  fc.oneof(
    fc.integer({ min: -3, max: 24 }).map(String),
    fc.constantFrom('0.5', '2.50', '12.25', '-1.5', '1e2', '180'),
  )

function textPredicate(
  source: Source,
  handle: string,
  empty: fc.Arbitrary<string>,
): fc.Arbitrary<string> {
  const value = fc
    .oneof(
      fc.constantFrom(...source.texts, ...source.refs),
      fc.string({ maxLength: 6 }),
      fc.constantFrom("o'clock", 'Straße', 'É', '', '100%'),
    )
    .filter((text) => !/\\$|\\'|\u0000/.test(text))
  const pattern = fc.oneof(
    fc.constantFrom(...source.texts).map((text) => `%${text.slice(2, 7)}%`),
    fc.constantFrom('%a%', '_e%', '%', 'YARD/_', '%\\%%', '%RAMP%', '%ß%'),
    fc.string({ maxLength: 4 }).filter((text) => !/\\|\u0000/.test(text)),
  )
  const fold = fc.constantFrom<[string, string]>(
    ['', ''],
    ['CASEI(', ')'],
    ['ACCENTI(', ')'],
    ['CASEI(ACCENTI(', '))'],
  )
  return fc.oneof(
    fc.tuple(compare, value).map(([op, text]) => `${handle} ${op} ${quoteText(text)}`),
    fc
      .tuple(fold, value)
      .map(
        ([[open, close], text]) => `${open}${handle}${close} = ${open}${quoteText(text)}${close}`,
      ),
    fc
      .tuple(fold, pattern, fc.boolean())
      .map(
        ([[open, close], text, not]) =>
          `${open}${handle}${close} ${not ? 'NOT ' : ''}LIKE ${open}${quoteText(text)}${close}`,
      ),
    empty,
  )
}

function day(source: Source): fc.Arbitrary<string> {
  return fc.integer({ min: -560, max: 60 }).map((offset) => addDays(source.today, offset))
}

function momentPredicate(
  source: Source,
  handle: string,
  kind: 'date' | 'timestamp',
  empty: fc.Arbitrary<string>,
): fc.Arbitrary<string> {
  const literal = fc.oneof(
    day(source).map((text) => `DATE('${text}')`),
    day(source).map((text) => `TIMESTAMP('${text}T09:30:00Z')`),
    fc.constantFrom(
      'today()',
      'now()',
      'days_ago(30)',
      'days_ahead(5)',
      'days_ago(200)',
      'created',
      'due',
      'done',
      'start',
    ),
  )
  const end = fc.oneof(
    day(source).map((text) => `'${text}'`),
    day(source).map((text) => `'${text}T12:00:00Z'`),
    fc.constantFrom(`'..'`, 'created', 'due', 'done'),
  )
  const span = fc.oneof(
    fc.constantFrom(
      'week(0)',
      'week(-3)',
      'month(0)',
      'month(-2)',
      'quarter(-1)',
      'year(0)',
      'day(-1)',
    ),
    fc
      .tuple(day(source), fc.integer({ min: 0, max: 90 }))
      .map(([from, length]) => `INTERVAL('${from}', '${addDays(from, length)}')`),
    fc
      .tuple(end, fc.constantFrom(`'..'`, 'due', 'done', 'changed'))
      .map(([from, to]) => `INTERVAL(${from}, ${to})`),
  )
  const mixed = fc.constantFrom('T_AFTER', 'T_BEFORE', 'T_DISJOINT', 'T_EQUALS', 'T_INTERSECTS')
  const intervals = fc.constantFrom(
    'T_CONTAINS',
    'T_DURING',
    'T_FINISHEDBY',
    'T_FINISHES',
    'T_MEETS',
    'T_METBY',
    'T_OVERLAPPEDBY',
    'T_OVERLAPS',
    'T_STARTEDBY',
    'T_STARTS',
  )
  return fc.oneof(
    fc.tuple(compare, literal).map(([op, value]) => `${handle} ${op} ${value}`),
    fc.tuple(mixed, span).map(([op, value]) => `${op}(${handle}, ${value})`),
    fc.tuple(intervals, span).map(([op, value]) => `${op}(INTERVAL(${handle}, '..'), ${value})`),
    fc.tuple(mixed, literal).map(([op, value]) => `${op}(${handle}, ${value})`),
    kind === 'date' ? empty : empty,
  )
}

function choicePredicate(
  source: Source,
  handle: string,
  domain: Parameters<Vocabulary['choices']>[0],
  empty: fc.Arbitrary<string>,
): fc.Arbitrary<string> {
  const names = source.vocabulary.choices(domain).map((choice) => choice.qualified)
  if (names.length === 0) return empty
  const name = fc.constantFrom(...names).map(quoteText)
  const value =
    domain === 'person' ? fc.oneof(name, fc.constant('me()'), fc.constant('raised_by')) : name
  return fc.oneof(
    fc.tuple(equality, value).map(([op, text]) => `${handle} ${op} ${text}`),
    fc
      .tuple(fc.array(value, { minLength: 1, maxLength: 4 }), fc.boolean())
      .map(([list, not]) => `${handle} ${not ? 'NOT ' : ''}IN (${list.join(', ')})`),
    empty,
  )
}

function arrayPredicate(
  source: Source,
  handle: string,
  domain: Parameters<Vocabulary['choices']>[0],
  empty: fc.Arbitrary<string>,
): fc.Arbitrary<string> {
  const names = source.vocabulary.choices(domain).map((choice) => quoteText(choice.qualified))
  if (names.length === 0) return empty
  const op = fc.constantFrom('A_CONTAINS', 'A_OVERLAPS', 'A_CONTAINEDBY', 'A_EQUALS')
  return fc.oneof(
    fc
      .tuple(op, fc.array(fc.constantFrom(...names), { maxLength: 3 }))
      .map(([text, list]) => `${text}(${handle}, (${list.join(', ')}))`),
    empty,
  )
}

function functionPredicate(source: Source): fc.Arbitrary<string> {
  const pick = (domain: Parameters<Vocabulary['choices']>[0]): fc.Arbitrary<string> =>
    fc.constantFrom(
      ...source.vocabulary.choices(domain).map((choice) => quoteText(choice.qualified)),
    )
  const span = fc.oneof(
    fc
      .tuple(day(source), fc.integer({ min: 0, max: 200 }))
      .map(([from, length]) => `INTERVAL('${from}', '${addDays(from, length)}')`),
    fc.constantFrom('month(-1)', `INTERVAL(created, '..')`, `INTERVAL('..', due)`),
  )
  const phase = fc.constantFrom('idle', 'active', 'done', 'dropped')
  const familyLabels = source.vocabulary.choices('label').filter((label) => label.family)
  const free = source.vocabulary.choices('label').filter((label) => !label.family)
  return fc.oneof(
    fc.constantFrom(...free).map((label) => `has_label(${quoteText(label.name)})`),
    fc
      .constantFrom(...familyLabels)
      .map(
        (label) =>
          `has_label(${quoteText(source.vocabulary.choice('family', label.family!)!.name)}, ${quoteText(label.own!)})`,
      ),
    pick('family').map((family) => `in_family(${family})`),
    pick('team').map((team) => `in_remit(${team})`),
    fc.constant('in_remit(my_teams())'),
    fc
      .tuple(pick('limit'), compare, fc.constantFrom('-100', '0', '4', '8.5', '40'))
      .map(([limit, op, hours]) => `limit_left(${limit}) ${op} ${hours}`),
    pick('limit').map((limit) => `limit_left(${limit}) IS NULL`),
    fc
      .tuple(fc.constantFrom(...source.texts), fc.constantFrom('', 'ramp', 'Hinge', 'wrote'))
      .map(([held, more]) => `words(${quoteText(`${held.slice(0, 12)} 7 ${more}`)})`),
    fc
      .constantFrom('ramp', 'HINGE', 'the', 'photo taken', 'über')
      .map((held) => `words('${held}')`),
    fc
      .tuple(pick('status'), compare, fc.constantFrom('0', '0.5', '3', '20'))
      .map(([status, op, days]) => `days_in(status, ${status}) ${op} ${days}`),
    fc
      .tuple(pick('status'), span, fc.constantFrom('0', '1', '7'))
      .map(([status, within, days]) => `days_in(status, ${status}, ${within}) > ${days}`),
    fc.tuple(pick('label')).map(([label]) => `days_in(labels, ${label}) > 10`),
    fc
      .tuple(
        fc.constantFrom(
          'status',
          'priority',
          'assignee',
          'due',
          'title',
          'remaining',
          'labels',
          'on_hold',
        ),
        compare,
        fc.integer({ min: 0, max: 3 }),
      )
      .map(([handle, op, times]) => `changes_of(${handle}) ${op} ${times}`),
    fc
      .tuple(fc.constantFrom('status', 'priority', 'due'), span, fc.integer({ min: 0, max: 2 }))
      .map(([handle, within, times]) => `changes_of(${handle}, ${within}) > ${times}`),
    fc
      .tuple(span, pick('person'))
      .map(([within, person]) => `changes_of(status, ${within}, ${person}) > 0`),
    fc
      .tuple(fc.constantFrom('first_into', 'last_into'), phase, compare, day(source))
      .map(([name, text, op, value]) => `${name}('${text}') ${op} DATE('${value}')`),
    fc
      .tuple(fc.constantFrom('first_into', 'last_into'), phase)
      .map(([name, text]) => `${name}('${text}') IS NULL`),
  )
}

/** Sums, products and remainders; quotients are compared only by order, never for equality. */
function arithmeticPredicate(): fc.Arbitrary<string> {
  const number = fc.constantFrom(
    'estimate',
    'remaining',
    'comments',
    'urgency',
    'rung',
    'tier',
    '2',
    '0',
    '0.1',
    '-3',
    'cost_of_parts',
    'hours_lost',
  )
  const exact = fc
    .tuple(number, fc.constantFrom('+', '-', '*'), number)
    .map(([a, op, b]) => `(${a} ${op} ${b})`)
  const whole = fc
    .tuple(
      fc.constantFrom('estimate', 'comments', '7', '-7'),
      fc.constantFrom('%', 'div'),
      fc.constantFrom('estimate', 'remaining', '2', '-3', '0'),
    )
    .map(([a, op, b]) => `(${a} ${op} ${b})`)
  return fc.oneof(
    fc
      .tuple(fc.oneof(exact, whole), compare, number)
      .map(([left, op, right]) => `${left} ${op} ${right}`),
    fc
      .tuple(number, number, fc.constantFrom('<', '>'), fc.constantFrom('0.3333', '1.7', '-0.77'))
      .map(([a, b, op, value]) => `${a} / ${b} ${op} ${value}`),
    fc
      .tuple(
        fc.constantFrom('estimate', 'rung', '-2', '0'),
        fc.constantFrom('2', '-1', '0', '3'),
        compare,
      )
      .map(([base, exponent, op]) => `${base} ^ ${exponent} ${op} 5`),
  )
}
