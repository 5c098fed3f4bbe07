<script setup lang="ts">
import { computed, ref } from 'vue'
import { flowOf, inOrder } from '@bluestem/core/definitions'
import { useSession } from '../app/session.store.ts'
import Margin from '../parts/Margin.vue'
import TypeMark from '../parts/TypeMark.vue'
import { counted, numberWords } from '../parts/words.ts'
import { useDefinitions } from './definitions.store.ts'
import TypeForm from './TypeForm.vue'

const definitions = useDefinitions()
const session = useSession()
const selected = ref<string>()
const editing = ref<string | 'new'>()
const types = computed(() => inOrder(definitions.document.types).sort((a, b) => b.tier - a.tier))
const chosen = computed(() => types.value.find((type) => type.id === selected.value) ?? types.value[0])
const flow = computed(() => chosen.value && flowOf(definitions.document, definitions.rulebook, chosen.value.id))
const items = (id: string): number => definitions.usage?.items[id] ?? 0
const tiers = ['the smallest', 'small', 'middling', 'large', 'the largest']
</script>

<template>
  <section class="sheet">
    <div class="row"><h1 class="grow">Types</h1><span class="quiet">edition {{ definitions.edition?.number }}{{ definitions.draft ? '' : ', no draft open' }}</span><button v-if="session.mayDefine" class="act main" type="button" @click="editing = 'new'">New type</button></div>
    <p class="meta">kinds of items; a parent is always of a higher tier</p>
    <table v-if="types.length" class="ledger">
      <thead><tr><th scope="col"><span class="seen-not">Mark</span></th><th scope="col">Title</th><th scope="col">Tier</th><th scope="col">When to use it</th><th scope="col" class="num">Items</th><th scope="col" class="num">Asked by</th></tr></thead>
      <tbody><tr v-for="type in types" :key="type.id" tabindex="0" :class="{ selected: type.id === chosen?.id, 'in-draft': definitions.isChanged('types', type.id) }" @click="selected = type.id" @focus="selected = type.id" @keydown.enter="session.mayDefine && (editing = type.id)">
        <td><TypeMark :mark="`${type.monogram}${type.tier}`" :title="type.title" /></td><td>{{ type.title }}<span v-if="definitions.isChanged('types', type.id)" class="draft-mark">in the draft</span></td><td class="quiet">{{ type.tier }}, {{ tiers[type.tier] }}</td><td class="quiet">{{ type.description }}</td><td class="num">{{ numberWords(items(type.id)) }}</td><td class="num quiet">{{ definitions.usage?.queries[type.id] ?? 0 }}</td>
      </tr></tbody>
    </table>
    <p v-else class="blank">Here the kinds of items would stand. <button v-if="session.mayDefine" class="plain" type="button" @click="editing = 'new'">Define the first one.</button></p>
    <TypeForm v-if="editing" :id="editing" @close="editing = undefined" />
  </section>
  <Margin>
    <template v-if="chosen">
      <h2>{{ chosen.title }}</h2><div class="quiet">{{ chosen.monogram }}, tier {{ chosen.tier }}</div>
      <p class="why">{{ chosen.description }}</p>
      <h3>What it is</h3>
      <div class="line"><span>starts in</span><span>{{ flow?.start ? definitions.document.statuses[flow.start]?.title : 'nowhere yet' }}</span></div>
      <div class="line"><span>statuses</span><span><RouterLink :to="`/definitions/flows?type=${chosen.id}`">{{ flow?.statuses.length ?? 0 }}</RouterLink></span></div>
      <div class="line"><span>moves allowed</span><span>{{ flow?.moves.size ?? 0 }}</span></div>
      <h3>Where it is used</h3>
      <div class="line"><span>items</span><span>{{ numberWords(items(chosen.id)) }}</span></div>
      <div class="line"><span>shared queries</span><span>{{ definitions.usage?.queries[chosen.id] ?? 0 }}</span></div>
      <h3>What changing it would touch</h3>
      <p class="quiet">{{ counted(items(chosen.id), 'item') }} would show the change at once when it is published.</p>
      <div v-if="session.mayDefine" class="acts below"><button class="act" type="button" @click="editing = chosen.id">Change</button></div>
    </template>
  </Margin>
</template>

<style scoped>
.why { margin-top: 8px } .below { margin-top: 14px }
</style>
