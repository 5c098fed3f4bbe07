import { createPinia, setActivePinia } from 'pinia'
import { type DOMWrapper, flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { vi } from 'vitest'
import type { Component } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import {
  builtIns,
  phases,
  type Property,
  type NamedChoice,
  type VocabularyAnswer,
} from '@bluestem/core/queries'
import { useVocabulary } from '../src/api/vocabulary.store.ts'
import { controls } from '../src/app/controls.ts'
import { useSession } from '../src/session/session.store.ts'
import { judgeByContract } from './contract.ts'

const choice = (id: string, title: string, mark: string | number | null = null): NamedChoice => ({
  id,
  title,
  mark,
  name: title,
  qualified: title,
})
const own = (handle: string, title: string, type: Property['type']): Property => ({
  handle,
  title,
  type,
  nullable: type.kind !== 'array',
  changesWith: ['own'],
  builtIn: false,
})

/** A small made-up vocabulary, as the server tells it. */
export const vocabulary: VocabularyAnswer = {
  edition: 3,
  zone: 'UTC',
  workspace: 'Marrowmere Ferries',
  today: '2026-11-25T10:00:00Z',
  properties: [
    ...builtIns,
    own('cost', 'Cost of parts', { kind: 'number' }),
    own('safe', 'Safety relevant', { kind: 'boolean' }),
    own('trial', 'Sea trial', { kind: 'timestamp' }),
    own('crew', 'Crew needed', { kind: 'array', domain: 'person' }),
    own('link', 'Certificate', { kind: 'text' }),
    {
      ...own('left_tl_mend', 'Mend: left', { kind: 'number' }),
      builtIn: true,
      leftOf: 'tl_mend',
    },
  ],
  functions: [
    {
      name: 'days_ago',
      forms: [[{ kind: 'whole', name: 'days', most: 36_525 }]],
      result: { kind: 'date' },
      changesWith: ['clock'],
      nullable: false,
      sentence: '$1 days ago',
      doc: 'the day so many days before today',
    },
  ],
  choices: {
    project: [{ ...choice('pr_yard', 'Fleet Yard', 'YARD'), name: 'YARD', qualified: 'YARD' }],
    type: [choice('ty_job', 'Job', 'Jo2'), choice('ty_defect', 'Defect', 'De1')],
    status: [
      choice('st_open', 'Open', 'idle'),
      choice('st_hand', 'In hand', 'active'),
      choice('st_off', 'Signed off', 'done'),
    ],
    phase: phases.map((phase) => choice(phase, phase)),
    priority: [choice('pi_stop', 'Sailing stopped', 1), choice('pi_late', 'When convenient', 2)],
    person: [choice('pe_tom', 'Tom Okafor'), choice('pe_ilse', 'Ilse Varga')],
    label: [
      {
        ...choice('la_car', 'car deck', 2),
        family: 'deck',
        own: 'car deck',
        name: 'deck: car deck',
        qualified: 'deck: car deck',
      },
      choice('la_wet', 'wet', 3),
    ],
    component: [],
    limit: [choice('tl_mend', 'Mend')],
    family: [],
    iteration: [],
    release: [],
    team: [],
    item: [],
    linkKind: [],
  },
  projects: [
    {
      id: 'pr_yard',
      code: 'YARD',
      title: 'Fleet Yard',
      description: 'Repairs.',
      open: true,
      rulebook: 'rb_all',
    },
  ],
}

export interface Request {
  readonly method: string
  readonly path: string
  readonly body: unknown
  readonly headers: Readonly<Record<string, string>>
}
export type Reply = { readonly status?: number; readonly body?: unknown; readonly etag?: string }

/** Answers the API from a table of `METHOD /path` and records what was asked. */
export function serve(
  answers: Readonly<Record<string, Reply | ((request: Request) => Reply)>>,
): Request[] {
  const asked: Request[] = []
  vi.stubGlobal(
    'fetch',
    (
      address: string,
      {
        method = 'GET',
        body,
        headers = {},
      }: { method?: string; body?: string; headers?: Record<string, string> } = {},
    ) => {
      const path = address.replace('/api/v1', '')
      const request = {
        method,
        path,
        body: body === undefined ? undefined : (JSON.parse(body) as unknown),
        headers,
      }
      asked.push(request)
      const answer = answers[`${method} ${path}`] ?? answers[`${method} *`]
      if (!answer) throw new Error(`nothing answers ${method} ${path}`)
      const {
        status = 200,
        body: told,
        etag = '',
      } = typeof answer === 'function' ? answer(request) : answer
      judgeByContract(request, { status, body: told })
      const text = told === undefined ? '' : JSON.stringify(told)
      return Promise.resolve({
        ok: status < 400,
        status,
        text: () => Promise.resolve(text),
        headers: { get: (name: string) => (name === 'etag' ? etag : null) },
      })
    },
  )
  return asked
}

/** Gives what a page without a layout lacks: a window of a size for lists that make only the rows in sight. */
export function furnish(): void {
  for (const [side, value] of [
    ['clientHeight', 640],
    ['clientWidth', 900],
    ['offsetHeight', 640],
    ['offsetWidth', 900],
  ] as const)
    for (const element of [Element, HTMLElement])
      Object.defineProperty(element.prototype, side, { configurable: true, value })
}

/** Overlays stay where they are written, so that a wrapper finds what is in them; their coming and going is the real one. */
export const around = { stubs: { teleport: true, transition: false, 'transition-group': false } }

/** What can be looked through: a wrapper of whatever component. */
export type Searchable = Pick<VueWrapper<unknown>, 'findAll'>

/** A control by its label: the words beside it, or the name it tells to readers. */
export function control(wrapper: Searchable, label: string): DOMWrapper<HTMLInputElement> {
  const isNamed = ({ element }: DOMWrapper<HTMLInputElement>): boolean =>
    element.getAttribute('aria-label') === label ||
    element.closest('label')?.querySelector('span')?.textContent?.trim() === label ||
    (element.matches('[type=checkbox], [type=radio]') &&
      element.closest('label')?.textContent?.trim() === label)
  const controls = wrapper.findAll<HTMLInputElement>('input, textarea, [role=combobox]')
  const named = controls.find(isNamed)
  if (!named) throw new Error(`nothing is labelled ${label}`)
  return named
}

/** Presses a button of these words. */
export async function press(wrapper: Searchable, words: string): Promise<void> {
  const pressed = wrapper.findAll('button').find((node) => node.text() === words)
  if (!pressed) throw new Error(`no button says ${words}`)
  await pressed.trigger('click')
  await flushPromises()
}

/** Whether a button of these words cannot be pressed. */
export function isDisabled(wrapper: Searchable, words: string): boolean {
  const button = wrapper.findAll('button').find((node) => node.text() === words)
  if (!button) throw new Error(`no button says ${words}`)
  return button.attributes('disabled') !== undefined
}

/** Opens a list as one would by keyboard; PrimeVue goes by the place of a key (`code`), not by what it writes. */
async function open(wrapper: Searchable, label: string): Promise<void> {
  await control(wrapper, label).trigger('keydown', { key: 'ArrowDown', code: 'ArrowDown' })
  await flushPromises()
}

/** Takes one of a list of choices by its words. */
export async function choose(wrapper: Searchable, label: string, words: string): Promise<void> {
  await open(wrapper, label)
  const option = wrapper.findAll('[role=option]').find((node) => node.text() === words)
  if (!option) throw new Error(`${label} does not offer ${words}`)
  await option.trigger('mousedown')
  await option.trigger('click')
  await flushPromises()
}

/** What a list of choices offers. */
export async function offeredBy(wrapper: Searchable, label: string): Promise<string[]> {
  await open(wrapper, label)
  return wrapper.findAll('[role=option]').map((node) => node.text())
}

/** A component on the page, and the router it stands in. */
export type Page = VueWrapper & { readonly router: ReturnType<typeof createRouter> }

/** Mounts a component as the application would: with a store, a router, a vocabulary and somebody signed in. */
export async function show(
  component: Component,
  {
    props = {},
    role = 'administrator',
    path = '/',
  }: {
    props?: Record<string, unknown>
    role?: 'administrator' | 'member' | 'viewer'
    path?: string
  } = {},
): Promise<Page> {
  const pinia = createPinia()
  setActivePinia(pinia)
  useVocabulary().vocabulary = vocabulary
  useSession().session = {
    person: { id: 'pe_tom', name: 'Tom Okafor', email: 'tom@marrowmere.example', role },
    workspace: { title: 'Marrowmere Ferries', zone: 'UTC', demo: true, settingUp: false },
    now: '2026-11-25T10:00:00Z',
  }
  const router = createRouter({
    history: createMemoryHistory(),
    routes: ['/iterations/:id', '/releases/:id', '/work/:code/tree', '/:rest(.*)*'].map((path) => ({
      path,
      component: { template: '<i/>' },
    })),
  })
  await router.push(path)
  const wrapper = mount(component, {
    props,
    global: { ...around, plugins: [pinia, router, controls] },
    attachTo: document.body,
  })
  await flushPromises()
  return Object.assign(wrapper, { router }) as never
}

/** The cells of a table, row by row, as they read. */
export const rows = (wrapper: Searchable, table = 0): string[][] =>
  wrapper
    .findAll('table')
    [table]!.findAll('tbody tr')
    .map((row) => row.findAll('td:not(.chooser)').map((cell) => cell.text()))

/** A stream of what changed that tests speak through. */
export class SpokenStream {
  static last: SpokenStream | undefined
  readonly hearers = new Map<string, (event: MessageEvent<string>) => void>()

  constructor() {
    SpokenStream.last = this
  }

  addEventListener(kind: string, hear: (event: MessageEvent<string>) => void): void {
    this.hearers.set(kind, hear)
  }

  close(): void {
    SpokenStream.last = undefined
  }

  /** Tells that something changed. */
  static tell(kind: string, subject: string): void {
    const data = JSON.stringify({ kind, subject })
    SpokenStream.last?.hearers.get('changed')?.(new MessageEvent('changed', { data }))
  }
}

/** The stream of what changed, silent in these tests. */
export class SilentStream {
  addEventListener(): void {
    /* nobody speaks */
  }
  close(): void {
    /* nothing to close */
  }
}
