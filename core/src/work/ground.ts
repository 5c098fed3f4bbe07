import type { Facts } from '../queries/tree/facts.ts'

/** An item as those around it know it. */
export interface Relative {
  readonly ref: string
  readonly type: string
  readonly parent: string | null
  /** whether the person who acts may see it */
  readonly visible: boolean
}

/** What stands directly below an item. */
export interface Below {
  /** how many of it are neither done nor dropped */
  readonly open: number
  /** how many there are of each type, with the ref of one of them that the person who acts may see */
  readonly types: ReadonlyMap<string, { readonly count: number; readonly ref: string | null }>
}

/** What an item went through, as far as requirements ask. */
export interface Past {
  /** whether something was said since it came to the status it is in */
  readonly commented: boolean
  /** the statuses it was ever in */
  readonly been: ReadonlySet<string>
}

/** What is known of items and of those around them, by ref. */
export interface KnownItems {
  readonly items: ReadonlyMap<string, Facts>
  /** the items themselves and all that stands above them, or above the parents they are given */
  readonly relatives: ReadonlyMap<string, Relative>
  readonly below: ReadonlyMap<string, Below>
  readonly past: ReadonlyMap<string, Past>
}

const nothingBelow: Below = { open: 0, types: new Map() }
const noPast: Past = { commented: false, been: new Set() }

const isOpen = (item: Facts): boolean =>
  item['deleted'] !== true && (item['phase'] === 'idle' || item['phase'] === 'active')

/** The ground that changes are judged on, kept up to date from one change to the next; it begins as a copy of what is known. */
export class Ground {
  readonly #items: Map<string, Facts>
  readonly #relatives: Map<string, Relative>
  readonly #below: Map<string, Below>
  readonly #past: Map<string, Past>

  constructor({ items, relatives, below, past }: KnownItems) {
    this.#items = new Map(items)
    this.#relatives = new Map(relatives)
    this.#below = new Map(below)
    this.#past = new Map(past)
  }

  /** An item that is judged. @throws Error for one that was not loaded, which is a defect */
  item(ref: string): Facts {
    const item = this.#items.get(ref)
    if (!item) throw new Error(`${ref} is not on the ground`)
    return item
  }

  relative(ref: string): Relative | undefined {
    return this.#relatives.get(ref)
  }

  below(ref: string): Below {
    return this.#below.get(ref) ?? nothingBelow
  }

  past(ref: string): Past {
    return this.#past.get(ref) ?? noPast
  }

  /** Whether an item is another one or stands anywhere above it. A circle that is there already ends where it closes. */
  standsAbove(ref: string, below: string): boolean {
    const met = new Set<string>()
    for (let at: string | null = below; at !== null && !met.has(at);) {
      if (at === ref) return true
      met.add(at)
      at = this.#relatives.get(at)?.parent ?? null
    }
    return false
  }

  /** Takes in what a change made of an item, so that the next one is judged on it. */
  accept(after: Facts, said: boolean): void {
    const ref = String(after['ref'])
    const before = this.item(ref)
    this.#items.set(ref, after)
    const known = this.#relatives.get(ref)
    const type = String(after['type'])
    const parent = after['parent'] === null ? null : String(after['parent'])
    this.#relatives.set(ref, { ref, type, parent, visible: known?.visible ?? true })
    this.#count(before, -1)
    this.#count(after, 1)
    const past = this.past(ref)
    const moved = before['status'] !== after['status']
    this.#past.set(ref, {
      been: new Set([...past.been, String(after['status'])]),
      commented: said || (past.commented && !moved),
    })
  }

  /** Takes in an item that is made, so that others can be judged beside and below it. */
  make(item: Facts): void {
    const ref = String(item['ref'])
    const parent = item['parent'] === null ? null : String(item['parent'])
    this.#items.set(ref, item)
    this.#relatives.set(ref, { ref, type: String(item['type']), parent, visible: true })
    this.#past.set(ref, { commented: false, been: new Set([String(item['status'])]) })
    this.#count(item, 1)
  }

  /** Counts an item among those directly below its parent, or takes it from them. */
  #count(item: Facts, by: 1 | -1): void {
    if (item['parent'] === null || item['deleted'] === true) return
    const parent = String(item['parent'])
    const { open, types } = this.below(parent)
    const type = String(item['type'])
    const known = types.get(type)
    const count = (known?.count ?? 0) + by
    const others = [...types].filter(([text]) => text !== type)
    const ref = known?.ref ?? String(item['ref'])
    this.#below.set(parent, {
      open: open + (isOpen(item) ? by : 0),
      types: new Map(count > 0 ? [...others, [type, { count, ref }]] : others),
    })
  }
}
