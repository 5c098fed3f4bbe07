<script setup lang="ts">
import { certain } from '@bluestem/core/known'
import type { SavedThing } from '@bluestem/core/saved'
import AutoComplete from 'primevue/autocomplete'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { call } from '../api/http.ts'
import { acts, administratorActs, openChapters, type Destination } from './destinations.ts'
import { useSession } from '../session/session.store.ts'
import { findItems } from '../parts/findItems.ts'

const router = useRouter()
const session = useSession()
const box = ref<InstanceType<typeof AutoComplete> & { readonly $el: HTMLElement }>()
const words = ref('')
const found = ref<readonly Destination[]>([])
let kept: Promise<readonly Destination[]> | undefined

/** In which chapter entries of the document stand, and what one is called. */
const chapterOf = [
  ['types', 'types', 'type'],
  ['fields', 'fields', 'field'],
  ['statuses', 'flows', 'status'],
  ['priorities', 'priorities', 'priority'],
  ['linkKinds', 'links', 'link kind'],
  ['limits', 'limits', 'time limit'],
  ['rulebooks', 'rulebooks', 'rulebook'],
] as const

/** Everything defined, and the labels beside it. */
async function definedThings(): Promise<readonly Destination[]> {
  const [{ document }, { labels }] = await Promise.all([
    call('GET /definitions'),
    call('GET /labels'),
  ])
  const entries = chapterOf.flatMap(([section, chapter, kind]) =>
    Object.entries<{ readonly title: string; readonly retired?: boolean }>(document[section])
      .filter(([, entry]) => !entry.retired)
      .map(([id, { title }]) => ({ to: `/definitions/${chapter}?id=${id}`, kind, title })),
  )
  return [
    ...entries,
    ...labels
      .filter((label) => !label.retired)
      .map(({ id, title }) => ({ to: `/definitions/labels?id=${id}`, kind: 'label', title })),
  ]
}

/** Chapters, acts, queries, views, dashboards and definitions are few: they are read once and looked through here. */
async function keptThings(): Promise<readonly Destination[]> {
  const [{ queries }, { views }, { dashboards }] = await Promise.all([
    call('GET /queries'),
    call('GET /views'),
    call('GET /dashboards'),
  ])
  const listed = (place: string, kind: string, all: readonly SavedThing<unknown>[]) =>
    all.map(({ id, title }) => ({ to: `/${place}/${id}`, kind, title }))
  const administrator = session.mayDefine ? administratorActs : []
  return [
    ...openChapters,
    ...acts,
    ...administrator,
    ...listed('queries', 'query', queries),
    ...listed('views', 'view', views),
    ...listed('dashboards', 'dashboard', dashboards),
    ...(await definedThings()),
  ]
}

async function look(text: string): Promise<void> {
  const [items, things] = await Promise.all([findItems(text, 7), (kept ??= keptThings())])
  const near = things
    .filter((thing) => thing.title.toLowerCase().includes(text.toLowerCase()))
    .slice(0, 5)
  found.value = [
    ...near,
    ...items.map((item) => ({ to: `/work/${item.ref}`, kind: item.ref, title: item.title })),
  ]
}

const input = (): HTMLInputElement =>
  certain(box.value?.$el.querySelector<HTMLInputElement>('input'), 'field to find by')

function go(entry: Destination): void {
  words.value = ''
  void router.push(entry.to)
  // The list gives the focus back to the box as it closes; only then can it be left.
  window.setTimeout(() => input().blur())
}

function shortcut(event: KeyboardEvent): void {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k') return
  event.preventDefault()
  input().focus()
}

onMounted(() => window.addEventListener('keydown', shortcut))
onBeforeUnmount(() => window.removeEventListener('keydown', shortcut))
</script>

<template>
  <div class="find">
    <AutoComplete
      ref="box"
      v-model="words"
      :suggestions="[...found]"
      option-label="title"
      aria-label="Find anything"
      placeholder="Find anything"
      :delay="150"
      :min-length="2"
      auto-option-focus
      append-to="self"
      fluid
      overlay-class="found"
      @focus="kept = undefined"
      @complete="look($event.query.trim())"
      @option-select="go($event.value)"
    >
      <template #option="{ option }">
        <span class="quiet kind">{{ option.kind }}</span>
        <span class="cut">{{ option.title }}</span>
      </template>
    </AutoComplete>
    <kbd aria-hidden="true">Ctrl K</kbd>
  </div>
</template>

<style scoped>
.find {
  position: relative;
  width: 210px;
}
.find :deep(input) {
  padding-right: 54px;
}
.find :deep(.found) {
  width: 420px;
  min-width: 420px !important;
  left: auto !important;
  right: 0;
}
kbd {
  position: absolute;
  right: 9px;
  top: 5px;
  font: 400 13px var(--sans);
  color: var(--quiet);
}
@media (max-width: 1060px) {
  .find {
    width: 150px;
  }
  .find :deep(input) {
    padding-right: 10px;
  }
  kbd {
    display: none;
  }
}
.kind {
  flex: none;
  width: 84px;
}
</style>
