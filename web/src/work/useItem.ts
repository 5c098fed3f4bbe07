import { certain } from '@bluestem/core/known'
import type { OffersAnswer } from '@bluestem/core/projects'
import type { CommentAnswer, LinkAnswer, VersionAnswer, WholeItemAnswer } from '@bluestem/core/work'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { call, messageOf, partsOf } from '../api/http.ts'
import { onChange } from '../api/live.ts'
import { whereItWent } from '../api/whereItWent.ts'
import { useSession } from '../session/session.store.ts'
import { useNotices } from '../notices/notices.store.ts'

/** Remembers that somebody looks at an item, and tells since when what came is new to them. */
function useLooks(itemRef: string) {
  const session = useSession()
  const notices = useNotices()
  /** when one looked at it before this; undefined for the first time */
  const before = ref<string>()

  /** Remembers that one looks at it now. What came since one did so before stays marked while the page is open. */
  async function look(): Promise<void> {
    const looked = await call('POST /items/{code}/{number}/looked', { params: partsOf(itemRef) })
    before.value ??= looked.before ?? undefined
    await notices.recount()
  }

  const isNew = ({ from, by }: VersionAnswer): boolean =>
    before.value !== undefined && from > before.value && by.id !== session.session?.person.id

  return { look, isNew }
}

/**
 * An item with its history, comments and links, read anew when somebody changed any of it.
 *
 * @param follow goes to the item under its new ref, where it went to another project
 */
export function useItem(itemRef: string, follow: (moved: string) => Promise<unknown>) {
  const item = ref<WholeItemAnswer>()
  const offers = ref<OffersAnswer>()
  const versions = ref<readonly VersionAnswer[]>([])
  const comments = ref<readonly CommentAnswer[]>([])
  const links = ref<readonly LinkAnswer[]>([])
  const missing = ref('')
  const { look, isNew } = useLooks(itemRef)
  const params = partsOf(itemRef)

  async function load(): Promise<void> {
    try {
      const [entry, past, said, linked] = await Promise.all([
        call('GET /items/{code}/{number}', { params }),
        call('GET /items/{code}/{number}/history', { params }),
        call('GET /items/{code}/{number}/comments', { params }),
        call('GET /items/{code}/{number}/links', { params }),
      ])
      item.value = entry
      versions.value = past.versions.toReversed()
      comments.value = said.comments
      links.value = linked.links
      offers.value ??= await call('GET /projects/{code}/offers', { params: { code: params.code } })
    } catch (error) {
      const moved = await whereItWent(itemRef)
      if (moved) await follow(moved)
      else missing.value = messageOf(error)
    }
  }

  async function open(): Promise<void> {
    await load()
    // A look that cannot be kept keeps nobody from reading.
    if (item.value) await look().catch(() => undefined)
  }
  onMounted(open)
  const stop = onChange(({ kind, subject }) => {
    if (subject === itemRef || kind === 'edition' || kind === 'everything') void open()
  })
  onBeforeUnmount(stop)

  /** The item, where it is certain to be shown. */
  const shown = (): WholeItemAnswer => certain(item.value, 'item that is shown')
  return { item, shown, offers, versions, comments, links, missing, isNew, load }
}
