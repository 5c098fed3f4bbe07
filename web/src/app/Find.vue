<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { post, get } from '../api/http.ts'
import type { Answers, SavedThing } from '../api/types.ts'
import { quoteText } from '@bluestem/core/queries'

interface Found {
  readonly to: string
  readonly kind: string
  readonly title: string
}

const router = useRouter()
const box = ref<HTMLInputElement>()
const words = ref('')
const found = ref<readonly Found[]>([])
const chosen = ref(0)
const open = ref(false)
let timer = 0
let kept: Promise<readonly Found[]> | undefined

/** In which chapter entries of the document stand, and what one is called. */
const chapters = {
  types: ['types', 'type'],
  fields: ['fields', 'field'],
  statuses: ['flows', 'status'],
  priorities: ['priorities', 'priority'],
  linkKinds: ['links', 'link kind'],
  limits: ['limits', 'time limit'],
  rulebooks: ['rulebooks', 'rulebook'],
} as const

/** Everything defined, and the labels beside it. */
async function definedThings(): Promise<readonly Found[]> {
  const [{ document }, { labels }] = await Promise.all([
    get<{ document: Record<string, Record<string, { title: string; retired?: boolean }>> }>(
      '/definitions',
    ),
    get<{ labels: readonly { id: string; title: string; retired: boolean }[] }>('/labels'),
  ])
  const entries = Object.entries(chapters).flatMap(([section, [chapter, kind]]) =>
    Object.entries(document[section] ?? {})
      .filter(([, one]) => !one.retired)
      .map(([id, { title }]) => ({ to: `/definitions/${chapter}?id=${id}`, kind, title })),
  )
  return [
    ...entries,
    ...labels
      .filter((one) => !one.retired)
      .map(({ id, title }) => ({ to: `/definitions/labels?id=${id}`, kind: 'label', title })),
  ]
}

/** Queries, views, dashboards and definitions are few: they are read once and looked through here. */
async function keptThings(): Promise<readonly Found[]> {
  const lists = await Promise.all(
    (['queries', 'views', 'dashboards'] as const).map(async (place) => {
      const answered = await get<Record<string, readonly SavedThing<unknown>[]>>(`/${place}`)
      return (answered[place] ?? []).map((one) => ({
        to: `/${place}/${one.id}`,
        kind: place === 'queries' ? 'query' : place.slice(0, -1),
        title: one.title,
      }))
    }),
  )
  return [...lists.flat(), ...(await definedThings())]
}

async function look(): Promise<void> {
  const text = words.value.trim()
  if (text.length < 2) return void (found.value = [])
  const ref_ = /^[A-Za-z][A-Za-z0-9]+\/\d+$/.test(text) ? text.toUpperCase() : undefined
  const pattern = quoteText(`%${text.replace(/[\\%_]/g, (char) => `\\${char}`)}%`)
  const [items, things] = await Promise.all([
    post<Answers>('/items/search', {
      filter: ref_ ? `ref = ${quoteText(ref_)}` : `CASEI(title) LIKE CASEI(${pattern})`,
      sort: '-changed',
      fields: 'title',
      limit: 7,
    }),
    (kept ??= keptThings()),
  ])
  const near = things
    .filter((one) => one.title.toLowerCase().includes(text.toLowerCase()))
    .slice(0, 5)
  found.value = [
    ...near,
    ...items.items.map((item) => ({ to: `/work/${item.ref}`, kind: item.ref, title: item.title })),
  ]
  chosen.value = 0
}

watch(words, () => {
  window.clearTimeout(timer)
  timer = window.setTimeout(() => void look(), 150)
})

function go(one: Found | undefined): void {
  if (!one) return
  open.value = false
  words.value = ''
  box.value?.blur()
  void router.push(one.to)
}

function keys(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown') chosen.value = Math.min(found.value.length - 1, chosen.value + 1)
  else if (event.key === 'ArrowUp') chosen.value = Math.max(0, chosen.value - 1)
  else if (event.key === 'Enter') go(found.value[chosen.value])
  else if (event.key === 'Escape') {
    open.value = false
    box.value?.blur()
  } else return
  event.preventDefault()
}

function shortcut(event: KeyboardEvent): void {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'k') return
  event.preventDefault()
  box.value?.focus()
}

onMounted(() => window.addEventListener('keydown', shortcut))
onBeforeUnmount(() => window.removeEventListener('keydown', shortcut))

function openAfresh(): void {
  open.value = true
  kept = undefined
}
</script>

<template>
  <div class="find">
    <input
      ref="box"
      v-model="words"
      type="search"
      role="combobox"
      aria-label="Find anything"
      aria-autocomplete="list"
      aria-controls="found"
      :aria-expanded="open && found.length > 0"
      :aria-activedescendant="open && found.length ? `found-${chosen}` : undefined"
      placeholder="Find anything"
      autocomplete="off"
      @focus="openAfresh"
      @blur="open = false"
      @keydown="keys"
    />
    <kbd aria-hidden="true">Ctrl K</kbd>
    <ul v-show="open && found.length > 0" id="found" role="listbox" aria-label="Found">
      <li
        v-for="(one, index) in found"
        :id="`found-${index}`"
        :key="one.to"
        role="option"
        :aria-selected="index === chosen"
        @mousedown.prevent="go(one)"
        @mousemove="chosen = index"
      >
        <span class="quiet">{{ one.kind }}</span> <span class="cut">{{ one.title }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.find {
  position: relative;
  width: 210px;
}
.find input {
  padding-right: 54px;
}
kbd {
  position: absolute;
  right: 9px;
  top: 5px;
  font: 400 13px var(--sans);
  color: var(--quiet);
}
ul {
  position: absolute;
  right: 0;
  top: 34px;
  width: 420px;
  z-index: 20;
  margin: 0;
  padding: 4px 0;
  list-style: none;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: var(--corner);
}
li {
  padding: 5px 12px;
  display: flex;
  gap: 10px;
  cursor: pointer;
}
li .quiet {
  flex: none;
  width: 84px;
}
li[aria-selected='true'] {
  background: var(--stem-wash);
}
</style>
