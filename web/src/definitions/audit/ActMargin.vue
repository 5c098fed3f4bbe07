<script setup lang="ts">
import type { ActAnswer } from '@bluestem/core/audit'
import { computed } from 'vue'
import { useSession } from '../../session/session.store.ts'
import { momentWords } from '../../parts/words.ts'
import { actWords, placeOf } from './act.ts'

/** One act: who did it and when, where what it changed stands, and what was there before and after, in words. */
const { act } = defineProps<{ act: ActAnswer }>()
const session = useSession()
const place = computed(() => placeOf(act))
</script>

<template>
  <h2>{{ act.act }}</h2>
  <div class="quiet">{{ act.by ?? 'Bluestem' }}, {{ momentWords(act.at, session.now) }}</div>
  <h3>What</h3>
  <p>
    <RouterLink v-if="place" :to="place">{{ actWords(act) }}</RouterLink><template v-else>{{
      actWords(act)
    }}</template>
  </p>
  <template v-if="act.lines.length"
    ><h3>Changed</h3>
    <ul>
      <li v-for="(line, index) in act.lines" :key="index">
        <span v-if="line.part" class="quiet part">{{ line.part }}</span>
        <template v-if="line.before !== null"
          ><del>{{ line.before }}</del
          >{{ ' ' }}</template
        ><ins v-if="line.after !== null">{{ line.after }}</ins>
      </li>
    </ul></template
  >
</template>

<style scoped>
ul {
  margin: 0;
  padding: 0;
  list-style: none;
  font-size: 13px;
}
li {
  margin: 0 0 7px;
  overflow-wrap: anywhere;
  white-space: pre-wrap;
}
.part {
  display: block;
  font-size: 12px;
}
ins {
  text-decoration: none;
}
del {
  color: var(--quiet);
}
</style>
