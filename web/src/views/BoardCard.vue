<script setup lang="ts">
import type { ItemAnswer } from '@bluestem/core/queries'
import { asChoice } from '@bluestem/core/schema'
import { computed } from 'vue'
import TypeMark from '../parts/TypeMark.vue'
import ValueText from '../parts/ValueText.vue'
import { initials } from '../parts/words.ts'
import { isSettled } from '../parts/isSettled.ts'
import { valueOf } from '../parts/valueOf.ts'

/** An item as a card: its mark and ref, then its title, then the chosen fields that hold something. */
const { item, fields, by } = defineProps<{
  item: ItemAnswer
  fields: readonly string[]
  by: string
}>()
const priority = computed(() => (fields.includes('priority') ? asChoice(item['priority']) : null))
const assignee = computed(() => (fields.includes('assignee') ? asChoice(item['assignee']) : null))
const rest = computed(() =>
  fields
    .filter((field) => field !== 'priority' && field !== 'assignee' && field !== by)
    .filter((field) => {
      const value = valueOf(item, field)
      return value !== null && value !== undefined && !(Array.isArray(value) && value.length === 0)
    }),
)
</script>

<template>
  <article
    :class="['card', { hold: item.on_hold }]"
    :aria-label="`${item.ref} ${item.title}${item.on_hold ? ', on hold' : ''}`"
  >
    <div class="row top">
      <TypeMark :mark="String(item.type.mark)" :title="item.type.title" /><RouterLink
        :to="`/work/${item.ref}`"
        class="quiet"
        draggable="false"
        >{{ item.ref }}</RouterLink
      ><span class="grow" />
      <span v-if="priority" class="priority" :title="priority.title"
        ><b>{{ priority.mark ?? '–' }}</b></span
      >
      <span
        v-if="fields.includes('assignee')"
        class="initials"
        :title="assignee?.title ?? 'nobody'"
        >{{ assignee ? initials(assignee.title) : '—' }}</span
      >
    </div>
    <div class="name">{{ item.title }}</div>
    <div v-if="item.on_hold" class="warn more">
      on hold<template v-if="item['hold_reason']">: {{ item['hold_reason'] }}</template>
    </div>
    <div v-if="rest.length" class="more">
      <ValueText
        v-for="field in rest"
        :key="field"
        :handle="field"
        :value="valueOf(item, field)"
        :settled="isSettled(item)"
      />
    </div>
  </article>
</template>

<style scoped>
.card {
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 2px;
  padding: 7px 9px 8px;
  user-select: none;
  cursor: grab;
  position: relative;
}
.card.dragging {
  border-color: var(--stem);
}
.top {
  font-size: 12.5px;
  gap: 7px;
}
.top .priority b {
  margin: 0;
}
.name {
  font-size: 14px;
  line-height: 1.25;
  margin-top: 4px;
  overflow-wrap: anywhere;
}
.more {
  font-size: 12.5px;
  margin-top: 5px;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
}
.card.hold {
  background:
    linear-gradient(225deg, transparent 20px, var(--sheet) 20px),
    repeating-linear-gradient(135deg, var(--hold) 0 1.5px, var(--sheet) 1.5px 4.5px);
}
.card.hold .initials,
.card.hold .priority b {
  background: var(--sheet);
}
</style>
