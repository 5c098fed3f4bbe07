import { isOneOf } from '../known/index.ts'
import type { CheckedCall, Condition, Value } from './tree/checked.ts'
import { functionEntry } from './functions/functions.ts'
import { type FunctionEntry, literalIn } from './functions/entry.ts'
import type { ArrayOp, CompareOp, TemporalOp } from './tree/tree.ts'
import type { QueryNames } from './tree/vocabulary.ts'
import { phases } from '../definitions/document/phases.ts'

/** A piece of a line; `value` marks what a person would change. */
export interface Part {
  readonly text: string
  readonly value?: true
}

/** One line of a query read as a sentence: a lead word in the margin (“whose”, “and”), then the clause. */
export interface Line {
  readonly depth: number
  readonly lead: string
  readonly parts: readonly Part[]
}

/** Reads a checked condition as a sentence, a line a clause. No condition reads as “Items of every kind”. */
export function sentence(condition: Condition, vocabulary: QueryNames): Line[] {
  if (condition.kind === 'truth')
    return [
      {
        depth: 0,
        lead: 'Items',
        parts: [{ text: condition.value ? 'of every kind' : 'that cannot be: this is never so' }],
      },
    ]
  const clauses = condition.kind === 'and' ? condition.args : [condition]
  let whose = false
  return clauses.flatMap((clause, index) => {
    const place = placeOf(clause)
    const needsWhose = place === undefined && !whose && !isVerb(clause)
    const lead = index === 0 ? 'Items' : place === 'project' ? 'in' : needsWhose ? 'whose' : 'and'
    if (needsWhose) whose = true
    const words = new Words(vocabulary)
    return words.lines(clause, lead, 0, index === 0 && needsWhose)
  })
}

/** One clause in words: “status is Open”. */
export const clauseInWords = (clause: Condition, vocabulary: QueryNames): string =>
  new Words(vocabulary)
    .lines(clause, '', 0, false)
    .map(({ lead, parts }) => `${lead} ${parts.map((part) => part.text).join('')}`.trim())
    .join(' ')

/** The whole sentence in one line: “Items in Site whose status is Open”. */
export const inOneLine = (lines: readonly Line[]): string =>
  lines.map((line) => `${line.lead} ${line.parts.map((part) => part.text).join('')}`).join(' ')

/** Types and projects read without a verb: “of type Task”, “in Site”. */
function placeOf(clause: Condition): 'type' | 'project' | undefined {
  const value =
    clause.kind === 'compare' && clause.op === '='
      ? clause.left
      : clause.kind === 'in'
        ? clause.value
        : undefined
  if (value?.kind !== 'property' || value.ofParent) return undefined
  const { handle } = value.property
  return handle === 'type' || handle === 'project' ? handle : undefined
}

const isVerb = (clause: Condition): boolean => clause.kind === 'call'

const comparisons: Record<CompareOp, [plain: string, moment: string]> = {
  '=': ['is', 'is'],
  '<>': ['is not', 'is not'],
  '<': ['is less than', 'is before'],
  '>': ['is more than', 'is after'],
  '<=': ['is at most', 'is on or before'],
  '>=': ['is at least', 'is on or after'],
}

const arrayWords: Record<ArrayOp, string> = {
  a_contains: 'hold all of',
  a_overlaps: 'hold any of',
  a_containedBy: 'hold nothing but',
  a_equals: 'are exactly',
}

const temporalWords: Record<TemporalOp, string> = {
  t_after: 'is after',
  t_before: 'is before',
  t_contains: 'contains',
  t_disjoint: 'lies outside',
  t_during: 'lies inside',
  t_equals: 'is',
  t_finishedBy: 'is finished by',
  t_finishes: 'finishes',
  t_intersects: 'falls in',
  t_meets: 'ends where begins',
  t_metBy: 'begins where ends',
  t_overlappedBy: 'is overlapped by',
  t_overlaps: 'overlaps',
  t_startedBy: 'is started by',
  t_starts: 'starts',
}

/** How many values of one list a sentence names. */
const mostRead = 24

class Words {
  readonly #vocabulary: QueryNames

  constructor(vocabulary: QueryNames) {
    this.#vocabulary = vocabulary
  }

  lines(clause: Condition, lead: string, depth: number, whose: boolean): Line[] {
    if (clause.kind === 'and' || clause.kind === 'or')
      return this.#group(clause, lead, depth, clause.kind === 'or' ? 'either of' : 'all of')
    if (clause.kind === 'not' && (clause.arg.kind === 'and' || clause.arg.kind === 'or'))
      return this.#group(
        clause.arg,
        lead,
        depth,
        clause.arg.kind === 'or' ? 'none of' : 'not all of',
      )
    const parts = this.#clause(clause)
    // A project after the first clause has its “in” in the margin.
    return [
      {
        depth,
        lead,
        parts: whose ? [{ text: 'whose ' }, ...parts] : lead === 'in' ? parts.slice(1) : parts,
      },
    ]
  }

  #group(
    group: Extract<Condition, { kind: 'and' | 'or' }>,
    lead: string,
    depth: number,
    words: string,
  ): Line[] {
    return [
      { depth, lead, parts: [{ text: `${words} these:` }] },
      ...group.args.flatMap((arg, index) =>
        this.lines(arg, index === 0 ? '' : group.kind, depth + 1, false),
      ),
    ]
  }

  #clause(clause: Condition): Part[] {
    switch (clause.kind) {
      case 'truth':
        return [{ text: clause.value ? 'anything' : 'nothing' }]
      case 'not':
        return this.#negated(clause.arg)
      case 'compare':
        return this.#compare(clause)
      case 'in':
        return this.#in(clause, 'is')
      case 'like':
        return [...this.#name(clause.value), { text: ' matches ' }, ...this.#value(clause.pattern)]
      case 'between':
        return [
          ...this.#name(clause.value),
          { text: ' is from ' },
          ...this.#value(clause.low),
          { text: ' to ' },
          ...this.#value(clause.high),
        ]
      case 'isNull':
        return [...this.#name(clause.value), { text: ' is empty' }]
      case 'array':
        return [
          ...this.#name(clause.left),
          { text: ` ${arrayWords[clause.op]} ` },
          ...this.#value(clause.right),
        ]
      case 'temporal':
        return [
          ...this.#name(clause.left),
          { text: ` ${temporalWords[clause.op]} ` },
          ...this.#value(clause.right),
        ]
      case 'call':
        return this.#call(clause)
      case 'and':
      case 'or':
        return [
          { text: '(' },
          ...clause.args.flatMap((arg, index) => [
            ...(index ? [{ text: ` ${clause.kind} ` }] : []),
            ...this.#clause(arg),
          ]),
          { text: ')' },
        ]
    }
  }

  #negated(arg: Condition): Part[] {
    if (arg.kind === 'in') return this.#in(arg, 'is not')
    if (arg.kind === 'isNull') return [...this.#name(arg.value), { text: ' is filled' }]
    if (arg.kind === 'like')
      return [...this.#name(arg.value), { text: ' does not match ' }, ...this.#value(arg.pattern)]
    if (arg.kind === 'compare' && arg.op === '=') return this.#compare({ ...arg, op: '<>' })
    return [{ text: 'not: ' }, ...this.#clause(arg)]
  }

  #compare(clause: Extract<Condition, { kind: 'compare' }>): Part[] {
    const place = placeOf(clause)
    if (place)
      return [{ text: place === 'type' ? 'of type ' : 'in ' }, ...this.#value(clause.right)]
    const moment = clause.left.type.kind === 'date' || clause.left.type.kind === 'timestamp'
    return [
      ...this.#name(clause.left),
      { text: ` ${comparisons[clause.op][moment ? 1 : 0]} ` },
      ...this.#value(clause.right),
    ]
  }

  #in(clause: Extract<Condition, { kind: 'in' }>, is: string): Part[] {
    // A list somebody picked is read whole; of one that was worked out the first few tell enough.
    const read = clause.list.slice(0, mostRead)
    const more = clause.list.length - read.length
    const options = [
      ...read.flatMap((value, index): Part[] => [
        ...(index === 0 ? [] : [{ text: ' or ' }]),
        ...this.#value(value),
      ]),
      ...(more > 0 ? [{ text: ` or any of ${more} more` }] : []),
    ]
    const place = is === 'is' ? placeOf(clause) : undefined
    if (place) return [{ text: place === 'type' ? 'of type ' : 'in ' }, ...options]
    return [...this.#name(clause.value), { text: ` ${is} ` }, ...options]
  }

  /** A value at the head of a clause: a property by its title, in lower case as in running text. */
  #name(value: Value): Part[] {
    if (value.kind !== 'property') return this.#value(value)
    const title = value.property.builtIn ? value.property.title.toLowerCase() : value.property.title
    return [{ text: value.ofParent ? `the parent’s ${title}` : title }]
  }

  #value(value: Value): Part[] {
    switch (value.kind) {
      case 'literal':
        return [{ text: this.#literal(value), value: true }]
      case 'property':
        return this.#name(value)
      case 'interval':
        return this.#interval(value)
      case 'list':
        return value.items.length === 0
          ? [{ text: 'nothing', value: true }]
          : value.items.flatMap((item, index) => [
              ...(index ? [{ text: ', ' }] : []),
              ...this.#value(item),
            ])
      case 'arithmetic':
        return [
          { text: '(' },
          ...this.#value(value.left),
          { text: ` ${value.op} ` },
          ...this.#value(value.right),
          { text: ')' },
        ]
      case 'fold':
        return [
          ...this.#value(value.value),
          { text: value.fold === 'casei' ? ' in any case' : ' with or without accents' },
        ]
      case 'call':
        return this.#call(value)
    }
  }

  #literal(value: Extract<Value, { kind: 'literal' }>): string {
    if (typeof value.value === 'boolean') return value.value ? 'yes' : 'no'
    if (value.type.kind === 'text') return `“${value.value}”`
    if (value.type.kind !== 'choice') return value.value
    if (isOneOf(phases, value.value)) return value.value
    const choice = this.#vocabulary.choice(value.type.domain, value.value)
    if (value.own) return choice?.own ?? value.value
    return choice?.title ?? value.value
  }

  #interval({ start, end }: Extract<Value, { kind: 'interval' }>): Part[] {
    if (start && end) return [...this.#value(start), { text: ' to ' }, ...this.#value(end)]
    if (start) return [...this.#value(start), { text: ' or later' }]
    if (end) return [...this.#value(end), { text: ' or earlier' }]
    return [{ text: 'any time', value: true }]
  }

  #call(call: CheckedCall): Part[] {
    const { near, sentence } = functionEntry(call.name)
    if (near) return [{ text: periodText(call, near), value: true }]
    const args = call.args.map((arg) => this.#value(arg))
    const all = args.flatMap((arg, index) => [...(index ? [{ text: ' ' }] : []), ...arg])
    const pieces = sentence.split(/(\$[\d*])/).filter(Boolean)
    const used = pieces.flatMap((piece): readonly Part[] => {
      if (piece === '$*') return all
      return /^\$\d$/.test(piece) ? (args[Number(piece[1]) - 1] ?? []) : [{ text: piece }]
    })
    const isWhole = pieces.includes('$*')
    const rest = isWhole ? [] : args.slice(pieces.filter((piece) => piece.startsWith('$')).length)
    return [...used, ...rest.flatMap((arg) => [{ text: ', ' }, ...arg])]
  }
}

/** A period by its distance from the present one: last week, 3 weeks from now. */
function periodText(
  call: CheckedCall,
  { words, unit }: NonNullable<FunctionEntry['near']>,
): string {
  const offset = Number(literalIn(call, 0))
  const near = words[offset + 1]
  if (near) return near
  const count = Math.abs(offset)
  return offset < 0 ? `${count} ${unit}s ago` : `${count} ${unit}s from now`
}
