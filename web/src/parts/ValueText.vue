<script setup lang="ts">
import { asChoice, asChoices } from '@bluestem/core/schema'
import { computed } from 'vue'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { useSession } from '../session/session.store.ts'
import LabelMark from './LabelMark.vue'
import PriorityMark from './PriorityMark.vue'
import StatusMark from './StatusMark.vue'
import TypeMark from './TypeMark.vue'
import { dayWords, hoursLeftWords, momentWords, numberWords } from './words.ts'
import { dayIn } from '../session/zone.ts'

/** A value of a property as it is read anywhere: marks for what has one, nothing for what is empty. A date of settled work is never late. */
const {
  handle,
  value,
  settled = false,
} = defineProps<{ handle: string; value: unknown; settled?: boolean }>()
const vocabulary = useVocabulary()
const session = useSession()
const property = computed(() => vocabulary.property(handle))
const chosen = computed(() => asChoice(value))
const several = computed(() => asChoices(value))
const left = computed(() => property.value?.leftOf !== undefined)
const past = computed(() => left.value && typeof value === 'number' && value < 0)
const late = computed(
  () => !settled && handle === 'due' && typeof value === 'string' && value < dayIn(session.now),
)
const web = computed(() =>
  typeof value === 'string' && /^https?:\/\//.test(value) && !property.value?.builtIn
    ? value
    : undefined,
)
const words = computed(() => {
  if (value === null || value === undefined) return ''
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'number') return left.value ? hoursLeftWords(value) : numberWords(value)
  if (property.value?.type.kind === 'date') return dayWords(String(value), session.now)
  if (property.value?.type.kind === 'timestamp') return momentWords(String(value), session.now)
  return typeof value === 'string' ? value : (asChoice(value)?.title ?? '')
})
</script>

<template>
  <span
    v-if="value === null || value === undefined || (Array.isArray(value) && value.length === 0)"
  />
  <TypeMark
    v-else-if="handle === 'type' && chosen"
    :mark="String(chosen.mark)"
    :title="chosen.title"
  />
  <StatusMark v-else-if="handle === 'status' && chosen" :status="chosen" />
  <PriorityMark v-else-if="handle === 'priority' && chosen" :priority="chosen" />
  <span v-else-if="handle === 'labels'"
    ><LabelMark v-for="label in several" :key="label.id" :label="label"
  /></span>
  <span v-else-if="several.length">{{ several.map((one) => one.title).join(', ') }}</span>
  <RouterLink v-else-if="handle === 'parent' && chosen" :to="`/work/${chosen.id}`">{{
    chosen.id
  }}</RouterLink>
  <a v-else-if="web" :href="web" rel="noreferrer noopener" target="_blank">{{
    web.replace(/^https?:\/\//, '')
  }}</a>
  <span v-else :class="{ warn: late || past }">{{ words }}</span>
</template>
