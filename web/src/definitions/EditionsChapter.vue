<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { get } from '../api/http.ts'
import type { Edition } from '../api/types.ts'
import { useSession } from '../app/session.store.ts'
import Margin from '../parts/Margin.vue'
import { dayWords } from '../parts/words.ts'

const session = useSession()
const editions = ref<readonly Edition[]>([])
const selected = ref<Edition>()
onMounted(async () => {
  editions.value = (await get<{ editions: readonly Edition[] }>('/definitions/editions')).editions
  selected.value = editions.value[0]
})
</script>

<template>
  <section class="sheet">
    <h1>Editions</h1><p class="meta">every state the definitions have had; the first line is in force</p>
    <table class="ledger"><thead><tr><th scope="col" class="num">Edition</th><th scope="col">Published</th><th scope="col">By</th><th scope="col">Why</th><th scope="col" class="num">Changes</th></tr></thead>
      <tbody><tr v-for="edition in editions" :key="edition.number" tabindex="0" :class="{ selected: edition === selected }" @click="selected = edition" @focus="selected = edition"><td class="num"><b>{{ edition.number }}</b></td><td class="quiet">{{ dayWords(edition.published_at, session.now) }}</td><td>{{ edition.by ?? '–' }}</td><td>{{ edition.note }}</td><td class="num">{{ edition.changes.length }}</td></tr></tbody></table>
  </section>
  <Margin>
    <template v-if="selected"><h2>Edition {{ selected.number }}</h2><div class="quiet">{{ dayWords(selected.published_at, session.now) }}, {{ selected.by ?? 'the beginning' }}</div><h3>What it changed</h3><div v-for="(words, index) in selected.changes" :key="index" class="line"><span>{{ words }}</span></div></template>
  </Margin>
</template>
