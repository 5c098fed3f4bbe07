import { setTimeout as pause } from 'node:timers/promises'
import { rows } from '../../src/database/connect.ts'
import { Chance } from '../../src/demo/chance.ts'
import { type Caller, copyWorkspace, signIn, type Workspace } from '../workspace.ts'
import { type OwnServer, startOwnServer } from './server.ts'

export interface WritingOptions {
  readonly writers: number
  readonly items: number
  /** how long they write at least, in milliseconds; on, until enough was written under enough kills, however slow the machine is */
  readonly lasting: number
  readonly kills: number
  readonly writes: number
  /** the longest time between two kills, in milliseconds */
  readonly within: number
  readonly seed: number
}

/** What came of it: of what was acknowledged nothing is to be missing, and of nothing there are to be two. */
export interface WritingReport {
  readonly kills: number
  readonly acknowledged: number
  readonly missing: readonly string[]
  readonly doubled: readonly string[]
  readonly gaps: number
  /** items whose count of comments is not how many there are */
  readonly miscounted: number
}

/** Many people write on the same items while their server is killed and comes again. */
export async function writeUnderFire(options: WritingOptions): Promise<WritingReport> {
  const workspace = await copyWorkspace()
  const writing = new Writing(workspace, options)
  try {
    return await writing.run()
  } finally {
    await writing.end()
    await workspace.close()
  }
}

class Writing {
  readonly #workspace: Workspace
  readonly #options: WritingOptions
  readonly #chance: Chance
  readonly #acknowledged: string[] = []
  #server!: OwnServer
  #caller: Caller | undefined
  #kills = 0
  #isOver = false

  constructor(workspace: Workspace, options: WritingOptions) {
    this.#workspace = workspace
    this.#options = options
    this.#chance = new Chance(options.seed)
  }

  async run(): Promise<WritingReport> {
    const { writers, items, lasting } = this.#options
    await this.#serve()
    const targets = await rows<{ ref: string }>(
      this.#workspace.database,
      `SELECT p.code || '/' || i.number AS ref FROM item i JOIN project p ON p.id = i.project_id
      WHERE NOT i.deleted ORDER BY i.id LIMIT $1`,
      [items],
    )
    const refs = targets.map(({ ref }) => ref)
    const writing = Array.from({ length: writers }, (_, writer) => this.#write(writer, refs))
    const until = Date.now() + lasting
    while (Date.now() < until || !this.#isEnough()) await this.#kill()
    this.#isOver = true
    await Promise.all(writing)
    return await this.#judge()
  }

  #isEnough(): boolean {
    const { kills, writes } = this.#options
    return this.#kills >= kills && this.#acknowledged.length >= writes
  }

  async #serve(): Promise<void> {
    this.#server = await startOwnServer(this.#workspace.url)
    this.#caller = await signIn(this.#server.origin, 'Mara Thiel')
  }

  async #kill(): Promise<void> {
    await pause(this.#options.within * (0.3 + 0.7 * this.#chance.next()))
    this.#kills += 1
    this.#server.process.kill('SIGKILL')
    await this.#serve()
  }

  /** Gives items titles that nobody gives again, each said as well; what was acknowledged is kept. */
  async #write(writer: number, refs: readonly string[]): Promise<void> {
    for (let count = 0; !this.#isOver; count += 1) {
      const title = `by ${writer}, the ${count}`
      const ref = this.#chance.pick(refs)
      try {
        const answer = await this.#caller!(
          'PATCH',
          `/items/${ref}`,
          { title, comment: title },
          { 'if-match': '*' },
        )
        if (answer.status === 200) this.#acknowledged.push(title)
      } catch {
        // The server was killed under it: whether it was written is not known, so nothing is claimed of it.
        await pause(20)
      }
    }
  }

  async #judge(): Promise<WritingReport> {
    const { database } = this.#workspace
    // A state begins a title where the one before had another.
    const titled = await rows<{ title: string; count: number }>(
      database,
      `SELECT title, count(*)::int AS count FROM (
        SELECT title, lag(title) OVER (PARTITION BY id ORDER BY valid_from) AS before FROM item_state
      ) z WHERE title LIKE 'by %, the %' AND title IS DISTINCT FROM before GROUP BY title`,
    )
    const said = await rows<{ body: string; count: number }>(
      database,
      `SELECT body, count(*)::int AS count FROM comment WHERE body LIKE 'by %, the %' GROUP BY body`,
    )
    const [gaps] = await rows<{ count: number }>(
      database,
      `SELECT count(*)::int AS count FROM (
        SELECT valid_to, lead(valid_from) OVER (PARTITION BY id ORDER BY valid_from) AS next FROM item_state
      ) z WHERE next IS NOT NULL AND next <> valid_to`,
    )
    const [miscounted] = await rows<{ count: number }>(
      database,
      `SELECT count(*)::int AS count FROM item i WHERE comment_count <> (
        SELECT count(*) FROM comment c WHERE c.item_id = i.id AND c.valid_to = 'infinity')`,
    )
    const [titles, comments] = [
      new Map(titled.map(({ title, count }) => [title, count])),
      new Map(said.map(({ body, count }) => [body, count])),
    ]
    return {
      kills: this.#kills,
      acknowledged: this.#acknowledged.length,
      missing: this.#acknowledged.filter((text) => !titles.has(text) || !comments.has(text)),
      doubled: [...titles, ...comments].flatMap(([text, count]) => (count > 1 ? [text] : [])),
      gaps: gaps!.count,
      miscounted: miscounted!.count,
    }
  }

  async end(): Promise<void> {
    this.#isOver = true
    const { process: child } = this.#server
    const gone = new Promise((done) => child.once('exit', done))
    if (child.exitCode === null && child.kill('SIGKILL')) await gone
  }
}
