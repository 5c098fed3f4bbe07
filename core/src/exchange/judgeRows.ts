import { lastIn } from '../known/index.ts'
import type { Facts } from '../queries/tree/facts.ts'
import { judgeEdit, type Judged } from '../work/edit.ts'
import { Ground, type KnownItems } from '../work/ground.ts'
import { judgeNew } from '../work/making.ts'
import type { Refusal } from '../work/refusal.ts'
import type { WorkRules } from '../work/rules.ts'
import type { CellProblem, FileReading, RowGiven } from './row.ts'

/** What a row does: it makes an item, changes one, says what is there already, or is wrong. */
export type RowOutcome =
  | { readonly kind: 'made'; readonly line: number; readonly ref: string; readonly item: Facts }
  | {
      readonly kind: 'changed' | 'same'
      readonly line: number
      readonly ref: string
      readonly judged: Extract<Judged, { ok: true }>
    }
  | { readonly kind: 'wrong'; readonly line: number; readonly problems: readonly CellProblem[] }

/** What rows are judged on. */
export interface RowGround {
  readonly project: string
  /** the ref that the next new item gets, and the one after that, and so on */
  readonly nextRef: () => string
  /** the items that rows change and those that become parents */
  readonly known: KnownItems
  /** the refs of items that are there by the value of the key field */
  readonly refByKey: ReadonlyMap<string, string>
}

/** Rows so that whatever another stands below comes before it; those in a circle keep their order, and are told so when judged. */
export function parentsFirst(rows: readonly RowGiven[]): RowGiven[] {
  const byKey = new Map(rows.flatMap((row) => (row.key === null ? [] : [[row.key, row] as const])))
  const ordered = new Set<RowGiven>()
  for (const row of rows) {
    const waiting: RowGiven[] = []
    const met = new Set<RowGiven>()
    for (let at: RowGiven | undefined = row; at && !ordered.has(at) && !met.has(at);) {
      met.add(at)
      waiting.push(at)
      const parent: unknown = at.given['parent']
      at = typeof parent === 'string' ? byKey.get(parent) : undefined
    }
    for (const rowGiven of waiting.toReversed()) ordered.add(rowGiven)
  }
  return [...ordered]
}

/** Judges the rows of a file one after the other, each on the ground that those before it leave behind. */
export class RowJudge {
  readonly #rules: WorkRules
  readonly #ground: Ground
  readonly #at: RowGround
  readonly #reading: FileReading
  readonly #headings: readonly string[]
  readonly #refByKey: Map<string, string>
  /** the lines of keys that were met */
  readonly #lines = new Map<string, number>()

  constructor(rules: WorkRules, at: RowGround, reading: FileReading, headings: readonly string[]) {
    this.#rules = rules
    this.#ground = new Ground(at.known)
    this.#at = at
    this.#reading = reading
    this.#headings = headings
    this.#refByKey = new Map(at.refByKey)
  }

  /** The ref of the item that a row with this key makes or changes; nothing where no row before it did. */
  refOfKey(key: string): string | undefined {
    return this.#refByKey.get(key)
  }

  /** What is wrong with the key of a row that another had before it. */
  #keyProblems(row: RowGiven): CellProblem[] {
    const { key, line } = row
    if (key === null) return []
    const before = this.#lines.get(key)
    this.#lines.set(key, before ?? line)
    if (before === undefined) return []
    const message = `Line ${before} has the same key “${key}” already.`
    return [this.#problem(row, this.#reading.key, message, 'each key once', key)]
  }

  /** What the row does. What it leaves behind counts for those after it. */
  judge(row: RowGiven): RowOutcome {
    const problems = [...row.wrong, ...this.#keyProblems(row)]
    const target = row.ref ?? (row.key === null ? undefined : this.#refByKey.get(row.key))
    const given = this.#withParent(row.given)
    if (problems.length > 0) return this.#wrongAlready(row, problems, target, given)
    return target === undefined ? this.#make(row, given) : this.#change(row, target, given)
  }

  /** A row with a cell that cannot be read is judged by its other cells, so that all that is wrong is told at once. */
  #wrongAlready(
    row: RowGiven,
    problems: readonly CellProblem[],
    target: string | undefined,
    given: RowGiven['given'],
  ): RowOutcome {
    const isThere = target !== undefined && this.#at.known.items.has(target)
    const judged = isThere
      ? judgeEdit(this.#rules, this.#ground, target, given)
      : judgeNew(this.#rules, this.#ground, this.#at.project, given)
    const others = judged.ok ? [] : this.#problemsOf(row, judged.refusal)
    const told = new Set(problems.map(({ column }) => column))
    const all = [...problems, ...others.filter(({ column }) => !told.has(column))]
    return { kind: 'wrong', line: row.line, problems: all }
  }

  /** A parent named by the key of another row is that row’s item. */
  #withParent(given: RowGiven['given']): RowGiven['given'] {
    const parent = given['parent']
    const ref = typeof parent === 'string' ? this.#refByKey.get(parent) : undefined
    return ref === undefined ? given : { ...given, parent: ref }
  }

  #change(row: RowGiven, ref: string, given: RowGiven['given']): RowOutcome {
    const { line } = row
    if (!this.#at.known.items.has(ref)) {
      const problem = this.#problem(
        row,
        'ref',
        `There is no item ${ref}, or you may not see it.`,
        'the ref of an item',
        ref,
      )
      return { kind: 'wrong', line, problems: [problem] }
    }
    const judged = judgeEdit(this.#rules, this.#ground, ref, given)
    if (!judged.ok) return this.#wrong(row, judged.refusal)
    this.#ground.accept(judged.after, false)
    return { kind: judged.changed.length > 0 ? 'changed' : 'same', line, ref, judged }
  }

  #make(row: RowGiven, given: RowGiven['given']): RowOutcome {
    const { line, key } = row
    const judged = judgeNew(this.#rules, this.#ground, this.#at.project, given)
    if (!judged.ok) return this.#wrong(row, judged.refusal)
    const ref = this.#at.nextRef()
    const item = { ...judged.item, ref }
    this.#ground.make(item)
    if (key !== null) this.#refByKey.set(key, ref)
    return { kind: 'made', line, ref, item }
  }

  #wrong(row: RowGiven, refusal: Refusal): RowOutcome {
    return { kind: 'wrong', line: row.line, problems: this.#problemsOf(row, refusal) }
  }

  #problemsOf(row: RowGiven, refusal: Refusal): CellProblem[] {
    const parts =
      refusal.wrong.length > 0
        ? refusal.wrong
        : // A refusal that names nothing that is wrong says why.
          [{ pointer: '', message: (refusal as { message: string }).message }]
    return parts.map(({ pointer, message, expected, found }) =>
      this.#problem(
        row,
        lastIn(pointer.split('/')),
        refusal.kind === 'refused' ? refusal.message : message,
        expected,
        found,
      ),
    )
  }

  /** What is wrong with a cell; what was found is what stands in it, where nothing else is said. */
  #problem(
    { line, cells }: RowGiven,
    target: string | null,
    message: string,
    expected?: string,
    given?: string,
  ): CellProblem {
    const index = target === null ? -1 : this.#reading.columns.indexOf(target)
    const found = given ?? cells[index]?.trim()
    return {
      line,
      column: this.#headings[index] ?? null,
      message,
      ...(expected === undefined ? {} : { expected }),
      ...(found ? { found } : {}),
    }
  }
}
