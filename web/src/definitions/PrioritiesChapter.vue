<script setup lang="ts">
import { computed, ref } from 'vue'
import { inOrder, orderBetween, type Ordered } from '@bluestem/core/definitions'
import { useSession } from '../app/session.store.ts'
import Margin from '../parts/Margin.vue'
import { counted, numberWords } from '../parts/words.ts'
import { useDefinitions } from './definitions.store.ts'
import PriorityForm from './PriorityForm.vue'

const definitions = useDefinitions()
const session = useSession()
const selected = ref<string>()
const editing = ref<string | 'new'>()
const ladder = computed(() => inOrder(definitions.document.ladders)[0])
const rungs = computed(() => (ladder.value ? inOrder<Ordered>(ladder.value.rungs).map((rung, index) => ({ ...rung, rung: index + 1, ...definitions.document.priorities[rung.id]! })) : []))
const off = computed(() => inOrder(definitions.document.priorities).filter((one) => !ladder.value?.rungs[one.id]))
const rows = computed(() => [...rungs.value, ...off.value.map((one) => ({ ...one, rung: null }))])
const chosen = computed(() => rows.value.find((row) => row.id === selected.value) ?? rows.value[0])
const items = (id: string): number => definitions.usage?.items[id] ?? 0

async function move(index: number, by: -1 | 1): Promise<void> {
  const list = inOrder<Ordered>(ladder.value!.rungs)
  const others = list.filter((_, at) => at !== index)
  const at = index + by
  await definitions.edit([{ path: ['ladders', ladder.value!.id, 'rungs', list[index]!.id, 'order'], after: orderBetween(others[at - 1]?.order ?? null, others[at]?.order ?? null) }])
}
const byDefault = async (id: string): Promise<boolean> => await definitions.edit([{ path: ['ladders', ladder.value!.id, 'default'], after: id }])
const putOn = async (id: string): Promise<boolean> => await definitions.edit([{ path: ['ladders', ladder.value!.id, 'rungs', id], after: { order: orderBetween(inOrder<Ordered>(ladder.value!.rungs).at(-1)?.order ?? null, null) } }])
</script>

<template>
  <section class="sheet">
    <div class="row"><h1 class="grow">Priorities</h1><span class="quiet">edition {{ definitions.edition?.number }}{{ definitions.draft ? '' : ', no draft open' }}</span><button v-if="session.mayDefine" class="act main" type="button" @click="editing = 'new'">New priority</button></div>
    <p class="meta">defined once, each with an urgency that means the same for everybody<template v-if="ladder"> · ladder {{ ladder.title }}, followed by {{ counted(Object.keys(definitions.document.projects).length, 'project') }}</template></p>
    <table class="ledger">
      <thead><tr><th scope="col">Rung</th><th scope="col">Title</th><th scope="col" class="num">Urgency</th><th scope="col">When to use it</th><th scope="col" class="num">Items</th><th scope="col" class="num">Asked by</th><th scope="col">Order</th></tr></thead>
      <tbody><tr v-for="(row, index) in rows" :key="row.id" tabindex="0" :class="{ selected: row.id === chosen?.id, 'in-draft': definitions.isChanged('priorities', row.id) || (ladder && definitions.isChanged('ladders', ladder.id, 'rungs', row.id)) }" @click="selected = row.id" @focus="selected = row.id" @keydown.enter.self="session.mayDefine && (editing = row.id)">
        <td><span class="priority"><b>{{ row.rung ?? '–' }}</b></span></td><td>{{ row.title }}<span v-if="ladder?.default === row.id" class="quiet"> · the default</span><span v-if="definitions.isChanged('priorities', row.id)" class="draft-mark">in the draft</span></td><td class="num">{{ row.urgency }} of 5</td><td class="quiet">{{ row.description }}</td><td class="num">{{ numberWords(items(row.id)) }}</td><td class="num quiet">{{ definitions.usage?.queries[row.id] ?? 0 }}</td>
        <td><template v-if="session.mayDefine && row.rung !== null"><button class="plain step" type="button" :disabled="index === 0" :aria-label="`${row.title} a rung up`" @click.stop="move(index, -1)">↑</button> <button class="plain step" type="button" :disabled="index === rungs.length - 1" :aria-label="`${row.title} a rung down`" @click.stop="move(index, 1)">↓</button></template><button v-else-if="session.mayDefine && ladder" class="plain" type="button" @click.stop="putOn(row.id)">put on the ladder</button></td>
      </tr></tbody>
    </table>
    <PriorityForm v-if="editing" :id="editing" @close="editing = undefined" />
  </section>
  <Margin>
    <template v-if="chosen">
      <h2>{{ chosen.title }}</h2><div class="quiet">{{ chosen.rung === null ? 'on no ladder' : `rung ${chosen.rung} of ${rungs.length}` }}, urgency {{ chosen.urgency }} of 5</div><p class="why">{{ chosen.description }}</p>
      <h3>Where it is used</h3>
      <div class="line"><span>items</span><span>{{ numberWords(items(chosen.id)) }}</span></div>
      <div class="line"><span>shared queries</span><span>{{ definitions.usage?.queries[chosen.id] ?? 0 }}</span></div>
      <h3>Who shares it</h3>
      <p class="quiet">{{ ladder && chosen.rung !== null ? `Every project that follows the ladder ${ladder.title}: ${Object.keys(definitions.document.projects).length} of them.` : 'Nobody is offered it until it stands on a ladder.' }}</p>
      <h3>What changing it would touch</h3><p class="quiet">{{ counted(items(chosen.id), 'item') }} of all projects.</p>
      <div v-if="session.mayDefine" class="acts below"><button class="act" type="button" @click="editing = chosen.id">Change</button><button v-if="ladder && chosen.rung !== null && ladder.default !== chosen.id" class="act" type="button" @click="byDefault(chosen.id)">Make it the default</button></div>
    </template>
  </Margin>
</template>

<style scoped>
.why { margin-top: 8px } .below { margin-top: 14px } .step { min-width: 26px; min-height: 26px } .step:disabled { color: var(--rule) }
</style>
