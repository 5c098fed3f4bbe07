<script setup lang="ts">
import Button from 'primevue/button'
import type { Line } from '@bluestem/core/queries'

/** The query read as a sentence, a clause a line. */
const { lines } = defineProps<{ lines: readonly Line[] }>()
const emit = defineEmits<{ edit: [] }>()
</script>

<template>
  <ul class="sentence" aria-label="The query as a sentence">
    <li v-for="(line, index) in lines" :key="index" :class="`d${Math.min(line.depth, 4)}`">
      <span class="lead">{{ line.lead }}</span>
      <span
        ><template v-for="(part, at) in line.parts" :key="at"
          ><span v-if="part.value" class="value">{{ part.text }}</span
          ><template v-else>{{ part.text }}</template></template
        ></span
      >
    </li>
  </ul>
  <Button variant="link" class="quiet" @click="emit('edit')" label="change it as text" />
</template>

<style scoped>
.sentence {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 62px 1fr;
  align-items: baseline;
  min-height: 30px;
  border-bottom: 1px solid var(--hair);
  padding: 4px 0;
  font-size: 15px;
}
.d1 {
  padding-left: 62px;
}
.d2 {
  padding-left: 124px;
}
.d3 {
  padding-left: 186px;
}
.d4 {
  padding-left: 248px;
}
.lead {
  font: italic 400 15.5px var(--serif);
  color: var(--quiet);
}
.value {
  color: var(--stem);
}
button {
  margin-top: 6px;
  font-size: 12.5px;
}
</style>
