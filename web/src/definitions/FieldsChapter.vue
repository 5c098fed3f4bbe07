<script setup lang="ts">
import { computed, ref } from 'vue'
import { entriesOf, inOrder, fieldKinds, type Field } from '@bluestem/core/definitions'
import { useSession } from '../app/session.store.ts'
import Margin from '../parts/Margin.vue'
import { agoWords, counted, numberWords } from '../parts/words.ts'
import { itemsBehind } from '../dashboards/measures.ts'
import { useDefinitions } from './definitions.store.ts'
import FieldForm from './FieldForm.vue'

const definitions = useDefinitions()
const session = useSession()
const selected = ref<string>()
const editing = ref<string | 'new'>()
const kind = ref('')
const onType = ref('')
const wanted = ref('')
const all = computed(() => inOrder(definitions.document.fields).sort((a, b) => a.title.localeCompare(b.title)))

/** the types on whose forms each field stands */
const forms = computed(() => {
  const byField = new Map<string, Set<string>>()
  for (const key of entriesOf(definitions.document, definitions.rulebook).keys()) {
    const [, type, field] = /^form:([^:]+):item:(.+)$/.exec(key) ?? []
    if (type && field) byField.set(field, (byField.get(field) ?? new Set()).add(type))
  }
  return byField
})
const titles = (id: string): string => [...forms.value.get(id) ?? []].map((type) => definitions.document.types[type]?.title ?? type).join(', ')
const shown = computed(() => all.value.filter((field) => (!kind.value || field.kind === kind.value) && (!onType.value || forms.value.get(field.id)?.has(onType.value)) && `${field.title} ${field.handle}`.toLowerCase().includes(wanted.value.toLowerCase())))
const chosen = computed(() => all.value.find((field) => field.id === selected.value) ?? shown.value[0])
const filled = (id: string): number => definitions.usage?.items[id] ?? 0
const carrying = (id: string): number => [...forms.value.get(id) ?? []].reduce((sum, type) => sum + (definitions.usage?.items[type] ?? 0), 0)
const share = (id: string): number => { const all_ = carrying(id); return all_ === 0 ? 0 : Math.min(100, Math.round(100 * filled(id) / all_)) }
const kindWords = (field: Field): string => (field.kind === 'choice' ? `choice of ${Object.keys(field.options ?? {}).length}` : field.kind === 'several choices' ? `several of ${Object.keys(field.options ?? {}).length}` : field.kind === 'number' ? ['number', field.unit, field.decimals === undefined ? undefined : counted(field.decimals, 'decimal')].filter(Boolean).join(', ') : field.kind === 'yes/no' ? 'yes or no' : field.kind)
const last = (id: string): string | null => definitions.usage?.lastUsed[id] ?? null
const stale = (id: string): boolean => { const used = last(id); return !used || session.now.getTime() - Date.parse(used) > 180 * 86_400_000 }
</script>

<template>
  <section class="sheet">
    <div class="row"><h1 class="grow">Fields</h1><span class="quiet">edition {{ definitions.edition?.number }}{{ definitions.draft ? '' : ', no draft open' }}</span><button v-if="session.mayDefine" class="act main" type="button" @click="editing = 'new'">New field</button></div>
    <div class="meta row wrap">
      <span>defined once for everyone · {{ counted(all.length, 'field') }} · of kind</span><select v-model="kind" aria-label="Kind" class="inline"><option value="">any</option><option v-for="one in fieldKinds" :key="one">{{ one }}</option></select>
      <span>· on forms of</span><select v-model="onType" aria-label="On forms of" class="inline"><option value="">any type</option><option v-for="type in inOrder(definitions.document.types)" :key="type.id" :value="type.id">{{ type.title }}</option></select>
      <input v-model="wanted" class="narrow" type="search" aria-label="Narrow the list" placeholder="Narrow the list">
    </div>
    <table v-if="shown.length" class="ledger">
      <thead><tr><th scope="col">Title</th><th scope="col">Handle</th><th scope="col">Kind</th><th scope="col">On forms of</th><th scope="col" class="num">Filled</th><th scope="col" class="num">Asked by</th><th scope="col" class="num">Last used</th></tr></thead>
      <tbody><tr v-for="field in shown" :key="field.id" tabindex="0" :class="{ selected: field.id === chosen?.id, 'in-draft': definitions.isChanged('fields', field.id) }" @click="selected = field.id" @focus="selected = field.id" @keydown.enter="session.mayDefine && (editing = field.id)">
        <td class="nowrap">{{ field.title }}<span v-if="definitions.isChanged('fields', field.id)" class="draft-mark">in the draft</span></td><td class="code quiet">{{ field.handle }}</td><td class="nowrap">{{ kindWords(field) }}</td><td class="quiet forms" :title="titles(field.id)">{{ titles(field.id) || 'none' }}</td>
        <td class="num nowrap"><span class="bar" aria-hidden="true"><i :style="{ width: `${share(field.id)}%` }" /></span> {{ share(field.id) }} %</td><td :class="['num', { warn: !definitions.usage?.queries[field.id] }]">{{ definitions.usage?.queries[field.id] ?? 0 }}</td><td :class="['num', 'nowrap', stale(field.id) ? 'warn' : 'quiet']">{{ last(field.id) ? agoWords(last(field.id)!, session.now) : 'never' }}</td>
      </tr></tbody>
    </table>
    <p v-else-if="all.length" class="blank">No field is like that. <button class="plain" type="button" @click="kind = ''; onType = ''; wanted = ''">Show all {{ all.length }}</button></p>
    <p v-else class="blank">Here the fields would stand that items have beside the built-in ones. <button v-if="session.mayDefine" class="plain" type="button" @click="editing = 'new'">Define the first one.</button></p>
    <FieldForm v-if="editing" :id="editing" @close="editing = undefined" />
  </section>
  <Margin>
    <template v-if="chosen">
      <h2>{{ chosen.title }}</h2><div class="quiet code">{{ chosen.handle }}</div>
      <p class="why">{{ chosen.description }}</p>
      <h3>What it is</h3>
      <div class="line"><span>kind</span><span>{{ kindWords(chosen) }}</span></div>
      <div class="line"><span>on forms of</span><span>{{ titles(chosen.id) || 'none' }}</span></div>
      <template v-if="chosen.options"><h3>Options</h3><div v-for="option in inOrder(chosen.options)" :key="option.id" class="line"><span>{{ option.title }}</span></div></template>
      <h3>Where it is used</h3>
      <div class="line"><span>items</span><span><RouterLink v-if="definitions.published.fields[chosen.id]" :to="itemsBehind({ op: 'not', args: [{ op: 'isNull', args: [{ property: chosen.handle }] }] })">{{ numberWords(filled(chosen.id)) }}</RouterLink><template v-else>not published yet</template></span></div>
      <div class="line"><span>shared queries</span><span>{{ definitions.usage?.queries[chosen.id] ?? 0 }}</span></div>
      <h3>What changing it would touch</h3>
      <p class="quiet">{{ counted(filled(chosen.id), 'item') }} hold a value. Its title may change freely: queries name its handle, which never does.</p>
      <div v-if="session.mayDefine" class="acts below"><button class="act" type="button" @click="editing = chosen.id">Change</button></div>
    </template>
  </Margin>
</template>

<style scoped>
.inline { width: auto; min-height: 26px; padding: 1px 4px } .narrow { width: 170px; min-height: 26px; padding: 1px 8px }
.bar { display: inline-block; width: 44px; height: 7px; border: 1px solid var(--rule); margin-right: 4px } .bar i { display: block; height: 100%; background: var(--rule) }
.forms { max-width: 96px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap } .nowrap { white-space: nowrap }
.why { margin-top: 8px } .below { margin-top: 14px }
.ledger td, .ledger th { padding: 0 6px }
.ledger th { padding: 5px 6px }
</style>
