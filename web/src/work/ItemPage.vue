<script setup lang="ts">
import { asTextOrNull, certain } from '@bluestem/core/known'
import type { OffersAnswer } from '@bluestem/core/projects'
import type { CommentAnswer, LinkAnswer, VersionAnswer, WholeItemAnswer } from '@bluestem/core/work'
import { asChoice } from '@bluestem/core/schema'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, nextTick, onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { written } from '../parts/eventTarget.ts'
import { ApiProblem, call, messageOf, partsOf } from '../api/http.ts'
import { onChange } from '../api/live.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../app/session.store.ts'
import Margin from '../parts/Margin.vue'
import Prose from '../parts/Prose.vue'
import ProseEditor from '../parts/ProseEditor.vue'
import StatusMark from '../parts/StatusMark.vue'
import TypeMark from '../parts/TypeMark.vue'
import { useNotes } from '../parts/notes.store.ts'
import { agoWords, momentWords } from '../parts/words.ts'
import { changeItem, type Clash, clashesOf, type ItemGiven, withTheirs } from './changing.ts'
import ClashSheet from './ClashSheet.vue'
import HistoryWords from './HistoryWords.vue'
import Followers from '../notices/Followers.vue'
import { useNotices } from '../notices/notices.store.ts'
import ApplyTemplate from './ApplyTemplate.vue'
import ChangeMany from './ChangeMany.vue'
import { copyOf } from './copyOf.ts'
import HoldLine from './HoldLine.vue'
import ItemBelow from './ItemBelow.vue'
import ItemClocks from './ItemClocks.vue'
import ItemFields from './ItemFields.vue'
import ItemLinks from './ItemLinks.vue'
import ItemPast from './ItemPast.vue'
import ItemSaid from './ItemSaid.vue'
import MakeItem from './MakeItem.vue'
import MoveTo from './MoveTo.vue'
import { changeBack } from './past.ts'
import ProposeChange from './ProposeChange.vue'

const route = useRoute()
const router = useRouter()
const session = useSession()
const vocabulary = useVocabulary()
const notes = useNotes()
const itemRef = `${String(route.params['code'])}/${String(route.params['number'])}`
const item = ref<WholeItemAnswer>()
const shown = (): WholeItemAnswer => certain(item.value, 'item that is shown')
const offers = ref<OffersAnswer>()
const versions = ref<readonly VersionAnswer[]>([])
const comments = ref<readonly CommentAnswer[]>([])
const links = ref<readonly LinkAnswer[]>([])
const missing = ref('')
const editing = ref<'title' | 'description'>()
const refusal = ref('')
const description = ref('')
const editor = ref<InstanceType<typeof ProseEditor>>()
const applying = ref(false)
const proposing = ref(false)
const copying = ref(false)
const moving = ref(false)

async function load(): Promise<void> {
  try {
    const [one, past, said, linked] = await Promise.all([
      call('GET /items/{code}/{number}', { params: partsOf(itemRef) }),
      call('GET /items/{code}/{number}/history', { params: partsOf(itemRef) }),
      call('GET /items/{code}/{number}/comments', { params: partsOf(itemRef) }),
      call('GET /items/{code}/{number}/links', { params: partsOf(itemRef) }),
    ])
    item.value = one
    versions.value = past.versions.toReversed()
    comments.value = said.comments
    links.value = linked.links
    offers.value ??= await call('GET /projects/{code}/offers', {
      params: { code: String(route.params['code']) },
    })
  } catch (error) {
    const moved = await whereItWent()
    if (moved) return void (await router.replace(`/work/${moved}`))
    missing.value = messageOf(error)
  }
}

/** The ref of an item that went to another project meanwhile. */
async function whereItWent(): Promise<string | undefined> {
  try {
    await call('GET /items/{code}/{number}', { params: partsOf(itemRef) })
    return undefined
  } catch (error) {
    const moved = error instanceof ApiProblem ? error.more['moved'] : undefined
    return typeof moved === 'string' ? moved : undefined
  }
}
/** when one looked at it before this; undefined for the first time */
const lookedBefore = ref<string>()
const notices = useNotices()

/** Remembers that one looks at it now. What came since one did so before stays marked while the page is open. */
async function look(): Promise<void> {
  const { before } = await call('POST /items/{code}/{number}/looked', { params: partsOf(itemRef) })
  lookedBefore.value ??= before ?? undefined
  await notices.recount()
}
const isNew = ({ from, by }: VersionAnswer): boolean =>
  lookedBefore.value !== undefined &&
  from > lookedBefore.value &&
  by.id !== session.session?.person.id

/** What takes back each of one’s own changes that nobody changed since, by the place in the history. */
const backs = computed(() =>
  versions.value.map(({ by, state }, place) => {
    const before = versions.value[place + 1]
    if (!session.mayEdit || by.id !== session.session?.person.id || !before) return undefined
    return changeBack(before.state, state, shown(), vocabulary.vocabulary?.properties ?? [])
  }),
)

async function undo(place: number): Promise<void> {
  const back = backs.value[place]
  if (back) await change(back.given, back.seen)
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

/** A change that somebody else was faster with, and what both changed. */
const clash = ref<{
  readonly given: ItemGiven
  readonly seen: ItemGiven
  readonly clashes: readonly Clash[]
}>()

/** Changes the item. Where somebody changed the same since one began, both are shown and one of them is chosen. */
async function change(given: ItemGiven, seen: ItemGiven): Promise<void> {
  refusal.value = ''
  const clashes = clashesOf(given, seen, shown())
  if (clashes.length > 0) return void (clash.value = { given, seen, clashes })
  await send(given, seen)
}

async function send(given: ItemGiven, seen: ItemGiven): Promise<void> {
  try {
    const outcome = await changeItem(shown(), given, seen)
    if (!outcome.ok) clash.value = { given, seen, clashes: outcome.clashes }
    else
      notes.show('well', 'Changed.', { title: 'Undo', run: async () => await change(seen, given) })
  } catch (error) {
    if (error instanceof ApiProblem && error.status === 409) refusal.value = error.message
    else notes.show('warn', messageOf(error))
  }
  await load()
}

/** Writes one’s own over what somebody else changed meanwhile, which one has seen now. */
async function takeMine(): Promise<void> {
  const { given, seen, clashes } = certain(clash.value, 'clash')
  clash.value = undefined
  await send(given, withTheirs(seen, clashes))
}

/** Sends the item to the bin, from where it comes back at once where that was a slip. */
async function remove(): Promise<void> {
  const wentWell = await notes.attempt(async () => {
    await call('DELETE /items/{code}/{number}', {
      params: partsOf(itemRef),
      match: shown().etag,
    })
  })
  if (!wentWell) return
  notes.show('well', `${itemRef} is in the bin.`, { title: 'Undo', run: () => void bringBack() })
  await router.push(`/work/${String(route.params['code'])}`)
}

async function bringBack(): Promise<void> {
  await notes.attempt(async () => {
    await call('POST /bin/bring-back', { body: { refs: [itemRef] } })
    await router.push(`/work/${itemRef}`)
  })
}

const moveTo = async (status: string, comment?: string): Promise<void> =>
  await change({ status, ...(comment ? { comment } : {}) }, { status: shown().status.id })
const type = computed(() => offers.value?.types.find((one) => one.id === item.value?.type.id))

/** what the text that is being edited was when one began */
const seenText = ref<string | null>(null)

function rename(): void {
  seenText.value = shown().title
  editing.value = 'title'
}

function leaveField({ target }: Event): void {
  if (target instanceof HTMLElement) target.blur()
}

async function keepTitle(event: Event): Promise<void> {
  editing.value = undefined
  const title = written(event)
  if (title !== seenText.value) await change({ title }, { title: seenText.value ?? '' })
}

async function describe(): Promise<void> {
  seenText.value = asTextOrNull(shown()['description'])
  description.value = seenText.value ?? ''
  editing.value = 'description'
  await nextTick()
  editor.value?.focus()
}

async function keepDescription(): Promise<void> {
  editing.value = undefined
  const now = description.value.trim() || null
  if (now !== seenText.value) await change({ description: now }, { description: seenText.value })
}
</script>

<template>
  <section class="sheet">
    <template v-if="item">
      <p class="path">
        <RouterLink :to="`/work/${String($route.params['code'])}`">{{
          asChoice(item['project'])?.title
        }}</RouterLink><template v-if="item['parent']">
          /
          <RouterLink :to="`/work/${asChoice(item['parent'])?.id}`">{{
            asChoice(item['parent'])?.id
          }}</RouterLink></template
        >
        / <b>{{ item.ref }}</b>
      </p>
      <div class="row title">
        <TypeMark :mark="String(item.type.mark)" :title="item.type.title" />
        <h1 v-if="editing !== 'title'" class="grow">
          {{ item.title }}
          <Button
            variant="link"
            class="small"
            v-if="session.mayEdit"
            @click="rename"
            label="rename"
          />
        </h1>
        <InputText
          :model-value="seenText ?? ''"
          v-else
          aria-label="Title"
          maxlength="300"
          autofocus
          @keydown.enter="leaveField"
          @keydown.escape="editing = undefined"
          @change="keepTitle"
          @blur="editing = undefined"
          fluid
        />
      </div>
      <MoveTo
        v-if="session.mayEdit"
        :item="item"
        :refusal="refusal"
        @move="moveTo"
        @refused="refusal = $event"
        ><span
          ><StatusMark :status="item.status" />{{ ' '
          }}<span class="quiet">since {{ agoWords(item.statusSince, session.now) }}</span></span
        ></MoveTo
      >
      <p v-else class="stands">
        <StatusMark :status="item.status" />{{ ' '
        }}<span class="quiet">since {{ agoWords(item.statusSince, session.now) }}</span>
      </p>
      <ItemClocks :item="item" />
      <HoldLine :item="item" @change="change" />
      <ItemFields
        v-if="type && offers"
        :item="item"
        :type="type"
        :priorities="offers.priorities"
        @change="change"
      />
      <div v-if="session.mayEdit" class="row beside">
        <Button
          variant="link"
          class="small"
          v-if="offers?.templates.length"
          @click="applying = true"
          label="apply a template …"
        /><Button
          variant="link"
          class="small"
          @click="proposing = true"
          label="propose a field or a word …"
        /><Button
          v-if="type"
          variant="link"
          class="small"
          label="copy …"
          @click="copying = true"
        /><Button
          variant="link"
          class="small"
          label="take to another project …"
          @click="moving = true"
        /><Button variant="link" class="small" label="delete" @click="remove" />
      </div>
      <ApplyTemplate
        v-if="applying && offers"
        :item="item"
        :templates="offers.templates"
        @close="applying = false"
        @applied="load"
      />
      <MakeItem
        v-if="copying && type && offers"
        :offers="offers"
        :given="copyOf(item, type)"
        @close="copying = false"
        @made="router.push(`/work/${$event}`)"
      />
      <ClashSheet
        v-if="clash"
        :clashes="clash.clashes"
        :versions="versions"
        @mine="takeMine"
        @theirs="clash = undefined"
      />
      <ChangeMany
        v-if="moving"
        :items="{ refs: [itemRef] }"
        :total="1"
        moves
        @close="moving = false"
        @done="load"
      />
      <ProposeChange v-if="proposing" :item="item" @close="proposing = false" />
      <div class="about">
        <template v-if="editing !== 'description'">
          <Prose v-if="item['description']" :text="String(item['description'])" class="words" />
          <Button
            variant="link"
            class="small"
            v-if="session.mayEdit"
            @click="describe"
            :label="item['description'] ? 'rewrite' : 'describe it …'"
          />
        </template>
        <ProseEditor
          v-else
          ref="editor"
          v-model="description"
          :rows="8"
          label="Description"
          @send="keepDescription"
          @leave="editing = undefined"
        />
        <div v-if="editing === 'description'" class="row beside">
          <Button severity="secondary" label="Keep" @click="keepDescription" />
          <Button variant="link" label="leave it" @click="editing = undefined" />
        </div>
      </div>
      <div class="below">
        <div>
          <ItemBelow
            :item="item"
            :types="offers?.types ?? []"
            :project="String($route.params['code'])"
            @made="load"
          />
          <ItemLinks
            :item-ref="itemRef"
            :links="links"
            :kinds="offers?.links ?? []"
            @changed="links = $event"
          />
        </div>
        <ItemSaid :item-ref="itemRef" :comments="comments" @said="load" />
      </div>
    </template>
    <template v-else-if="missing"
      ><h1>{{ itemRef }}</h1>
      <p class="blank">{{ missing }} <RouterLink to="/work">All projects</RouterLink></p></template
    >
  </section>
  <Margin>
    <Followers v-if="item" :key="comments.length" :item-ref="itemRef" />
    <h2>What happened</h2>
    <ItemPast
      v-if="item"
      :item="item"
      :versions="versions"
      :may-restore="session.mayEdit"
      @restore="change"
    />
    <div v-for="(version, place) in versions" :key="version.from" class="line">
      <span class="quiet when"
        >{{ momentWords(version.from, session.now)
        }}<b v-if="isNew(version)" class="new">new</b></span
      ><span class="what"
        ><HistoryWords :version="version" />{{ ' '
        }}<Button
          v-if="backs[place]"
          variant="link"
          class="small"
          label="undo"
          :aria-label="`Undo what changed ${momentWords(version.from, session.now)}`"
          @click="undo(place)"
      /></span>
    </div>
  </Margin>
</template>

<style scoped>
.beside {
  gap: 16px;
  margin-top: 10px;
}
.path {
  font-size: 13px;
  color: var(--quiet);
}
.path b {
  color: var(--ink);
}
.title {
  margin: 8px 0 10px;
}
.title h1 {
  font-size: 28px;
}
.title input {
  font: 500 25px var(--serif);
}
.small {
  font-size: 12.5px;
  font-family: var(--sans);
}
.stands {
  padding-bottom: 12px;
  border-bottom: 1px solid var(--hair);
  margin-bottom: 12px;
}
.about {
  margin: 18px 0 20px;
}
.words {
  font: 400 17px/1.45 var(--serif);
  max-width: 78ch;
}
.below {
  display: grid;
  grid-template-columns: minmax(0, 11fr) minmax(0, 8fr);
  gap: 28px;
}
.when {
  flex: none;
  width: 86px;
}
.new {
  display: block;
  color: var(--leaf);
}
.what {
  flex: 1;
  text-align: left;
}
.line > .what:last-child {
  text-align: left;
}
</style>
