<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { flowOf, inOrder, typesOf } from '@bluestem/core/definitions'
import { get } from '../api/http.ts'
import { useSession } from '../app/session.store.ts'
import Margin from '../parts/Margin.vue'
import StatusMark from '../parts/StatusMark.vue'
import { counted, numberWords } from '../parts/words.ts'
import { useDefinitions } from './definitions.store.ts'
import FlowGrid, { type Cell } from './FlowGrid.vue'
import StatusForm from './StatusForm.vue'

const definitions = useDefinitions()
const session = useSession()
const route = useRoute()
const types = computed(() => typesOf(definitions.document, definitions.rulebook).map((id) => ({ id, ...definitions.document.types[id]! })))
const type = ref(typeof route.query['type'] === 'string' ? route.query['type'] : types.value.find((one) => one.title === 'Defect')?.id ?? types.value[0]?.id ?? '')
const days = ref(90)
const made = ref<Readonly<Record<string, number>>>({})
const cell = ref<Cell>()
const status = ref<string>()
const editing = ref<string | 'new'>()
watch([type, days, () => definitions.edition?.number], async () => { if (type.value) made.value = (await get<{ moves: Record<string, number> }>(`/definitions/moves/${type.value}?days=${days.value}`)).moves }, { immediate: true })

const flow = computed(() => flowOf(definitions.document, definitions.rulebook, type.value))
const before = computed(() => flowOf(definitions.published, definitions.rulebook, type.value))
const spare = computed(() => inOrder(definitions.document.statuses).filter((one) => !flow.value.statuses.includes(one.id)))
const title = (id: string): string => definitions.document.statuses[id]?.title ?? id
const standing = (id: string): number => definitions.usage?.standing[`${type.value}:${id}`] ?? 0
const entry = (key: string): string[] => ['rulebooks', definitions.rulebook, 'entries', key]

async function toggle({ from, to }: Cell): Promise<void> {
  cell.value = { from, to }
  status.value = undefined
  if (!session.mayDefine) return
  const allowed = flow.value.moves.has(`${from}:${to}`)
  await definitions.edit([{ path: entry(`move:${type.value}:${from}:${to}`), ...(allowed ? {} : { after: {} }) }])
}

async function use(id: string): Promise<void> {
  if (!id) return
  const entries = Object.fromEntries(flow.value.statuses.map((one) => [one, { order: (definitions.document.rulebooks[definitions.rulebook]!.entries[`status:${type.value}:${one}`] as { order: string }).order }]))
  await definitions.edit([{ path: entry(`status:${type.value}:${id}`), after: { order: definitions.lastOrder(entries) } }])
}

async function start(id: string): Promise<void> {
  await definitions.edit([{ path: [...entry(`type:${type.value}`), 'start'], after: id }])
}

async function leaveOut(id: string): Promise<void> {
  const moves = [...flow.value.moves].filter((move) => move.split(':').includes(id))
  await definitions.edit([...moves.map((move) => ({ path: entry(`move:${type.value}:${move}`) })), { path: entry(`status:${type.value}:${id}`) }])
}
const chosen = computed(() => (status.value ? definitions.document.statuses[status.value] : undefined))
</script>

<template>
  <section class="sheet">
    <div class="row"><h1 class="grow">Flow of {{ definitions.document.types[type]?.title }}</h1><span class="quiet">edition {{ definitions.edition?.number }}{{ definitions.draft ? '' : ', no draft open' }}</span><button v-if="session.mayDefine" class="act main" type="button" @click="editing = 'new'">New status</button></div>
    <div class="meta row wrap">
      <span>the flow of</span><select v-model="type" aria-label="Type" class="inline"><option v-for="one in types" :key="one.id" :value="one.id">{{ one.title }}</option></select>
      <span>in rulebook {{ definitions.document.rulebooks[definitions.rulebook]?.title }} · starts in {{ flow.start ? title(flow.start) : 'nowhere yet' }} · figures: moves made in the last</span>
      <select v-model.number="days" aria-label="Span of the figures" class="inline"><option :value="30">30 days</option><option :value="90">90 days</option><option :value="365">year</option></select>
    </div>
    <FlowGrid v-if="flow.statuses.length" :flow="flow" :before="before" :statuses="definitions.document.statuses" :made="made" :may-edit="session.mayDefine" :selected="cell" @toggle="toggle" @look="cell = $event; status = undefined" @status="status = $event; cell = undefined" />
    <div class="row key quiet">
      <span><i class="swatch used" /> allowed, darker the more it is used</span><span><i class="swatch happened" /> not allowed, yet it happened</span><span><i class="swatch allows" /> this draft allows</span><span><i class="swatch forbids" /> this draft forbids</span>
      <span class="grow" /><label v-if="session.mayDefine && spare.length">take in <select aria-label="Take a status into this flow" class="inline" :value="''" @change="use(($event.target as HTMLSelectElement).value)"><option value="">a status …</option><option v-for="one in spare" :key="one.id" :value="one.id">{{ one.title }}</option></select></label>
    </div>
    <h2>All statuses</h2>
    <table class="ledger"><thead><tr><th scope="col">Title</th><th scope="col">Phase</th><th scope="col">When to use it</th><th scope="col" class="num">Items</th></tr></thead>
      <tbody><tr v-for="one in inOrder(definitions.document.statuses)" :key="one.id" tabindex="0" :class="{ selected: one.id === status, 'in-draft': definitions.isChanged('statuses', one.id) }" @click="status = one.id; cell = undefined" @focus="status = one.id; cell = undefined" @keydown.enter="session.mayDefine && (editing = one.id)"><td><StatusMark :status="{ id: one.id, title: one.title, mark: one.phase }" /><span v-if="definitions.isChanged('statuses', one.id)" class="draft-mark">in the draft</span></td><td class="quiet">{{ one.phase }}{{ one.queue ? ', queue' : '' }}</td><td class="quiet">{{ one.description }}</td><td class="num">{{ numberWords(definitions.usage?.items[one.id] ?? 0) }}</td></tr></tbody></table>
    <StatusForm v-if="editing" :id="editing" :type="type" @close="editing = undefined" />
  </section>
  <Margin>
    <template v-if="cell">
      <h2>{{ title(cell.from) }} → {{ title(cell.to) }}</h2>
      <div :class="flow.moves.has(`${cell.from}:${cell.to}`) ? 'well' : 'warn'">{{ flow.moves.has(`${cell.from}:${cell.to}`) ? 'allowed' : 'not allowed' }}<template v-if="flow.moves.has(`${cell.from}:${cell.to}`) !== before.moves.has(`${cell.from}:${cell.to}`)"> by this draft</template></div>
      <h3>What changing it would touch</h3>
      <div class="line"><span>items in {{ title(cell.from) }} now</span><span>{{ numberWords(standing(cell.from)) }}</span></div>
      <div class="line"><span>moves made in {{ days }} days</span><span>{{ numberWords(made[`${cell.from}:${cell.to}`] ?? 0) }}</span></div>
    </template>
    <template v-else-if="chosen && status">
      <h2>{{ chosen.title }}</h2><div class="quiet">{{ chosen.phase }}{{ chosen.queue ? ', a queue: work lies still in it' : '' }}</div><p class="why">{{ chosen.description }}</p>
      <h3>Where it is used</h3>
      <div class="line"><span>items</span><span>{{ numberWords(definitions.usage?.items[status] ?? 0) }}</span></div>
      <div class="line"><span>of {{ definitions.document.types[type]?.title }}</span><span>{{ numberWords(standing(status)) }}</span></div>
      <div class="line"><span>shared queries</span><span>{{ definitions.usage?.queries[status] ?? 0 }}</span></div>
      <h3>What changing it would touch</h3><p class="quiet">{{ counted(definitions.usage?.items[status] ?? 0, 'item') }} would show a new name at once. Queries keep their meaning.</p>
      <div v-if="session.mayDefine" class="acts below"><button class="act" type="button" @click="editing = status">Rename or describe</button><button v-if="flow.statuses.includes(status) && flow.start !== status" class="act" type="button" @click="start(status)">Start here</button><button v-if="flow.statuses.includes(status) && flow.start !== status && standing(status) === 0" class="act" type="button" @click="leaveOut(status)">Leave out of this flow</button></div>
    </template>
    <p v-else class="quiet">A cell of the grid says whether an item may go from the status of its row to that of its column, and how often that was done. {{ session.mayDefine ? 'Press one to allow or forbid the move in a draft.' : '' }}</p>
  </Margin>
</template>

<style scoped>
.inline { width: auto; min-height: 26px; padding: 1px 4px }
.key { font-size: 12.5px; gap: 16px; margin: 10px 0 22px; flex-wrap: wrap }
.swatch { display: inline-block; width: 13px; height: 11px; vertical-align: -1px; margin-right: 4px; border: 1px solid var(--rule) }
.used { background: color-mix(in srgb, var(--stem) 50%, transparent) } .happened { background: repeating-linear-gradient(135deg, var(--russet-wash) 0 3px, transparent 3px 6px) } .allows { border: 2px solid var(--leaf) } .forbids { border: 2px solid var(--russet) }
h2 { margin: 0 0 4px } .why { margin-top: 8px } .below { margin-top: 14px }
</style>
