import { inOrder, same, valueAt } from '@bluestem/core/definitions'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { call } from '../../api/http.ts'
import { useSession } from '../../session/session.store.ts'
import { useDraftActs } from './draftActs.ts'
import { useDraftAtHand } from './draftAtHand.ts'
import { useEditing } from './editing.ts'
import { useInForce } from './inForce.ts'
import { lastOrder, newId } from './newEntries.ts'
import { usePublishing } from './publishing.ts'

/** The definitions as they are, the drafts that would change them, and how much they are used. */
export const useDefinitions = defineStore('definitions', () => {
  const session = useSession()
  const { readInForce, ...inForce } = useInForce()
  const { published, keeps } = inForce
  const hand = useDraftAtHand(inForce.edition)
  const { drafts, chosenDraft, atHand, draft } = hand
  const document = computed(() => draft.value?.document ?? published.value)
  const loaded = ref(false)

  const chosenRulebook = ref('')
  const rulebooks = computed(() => inOrder(document.value.rulebooks))
  const rulebook = computed({
    get: () =>
      document.value.rulebooks[chosenRulebook.value]
        ? chosenRulebook.value
        : (rulebooks.value[0]?.id ?? ''),
    set: (id: string) => {
      chosenRulebook.value = id
    },
  })

  const mayDefineAll = computed(() => session.mayDefine)
  /** whether one may change anything: administrators all, keepers inside their rulebooks */
  const mayDraft = computed(() => session.mayDefine || (session.mayEdit && keeps.value.length > 0))
  const mayChange = (id: string): boolean =>
    session.mayDefine || (session.mayEdit && keeps.value.includes(id))

  async function load(): Promise<void> {
    const [open] = await Promise.all([call('GET /definitions/drafts'), readInForce()])
    drafts.value = open.drafts
    await hand.openDraft()
    loaded.value = true
  }

  /** whether the draft changes what stands at a path */
  const isChanged = (...path: string[]): boolean =>
    draft.value !== undefined &&
    !same(valueAt(published.value, path), valueAt(draft.value.document, path))

  const state = { ...inForce, drafts, chosenDraft, atHand, draft, document, rulebooks, rulebook }
  const rights = { mayDefineAll, mayDraft, mayChange }
  const acts = {
    ...useEditing(hand, document, rulebook),
    ...useDraftActs(hand),
    ...usePublishing(hand, document, load),
  }
  return { ...state, ...rights, ...acts, loaded, load, newId, lastOrder, isChanged }
})
