<script setup lang="ts">
import { computed } from 'vue'
import { useSession } from '../../session/session.store.ts'
import { agoWords } from '../../parts/words.ts'
import { useDefinitions } from '../store/definitions.store.ts'

/** When something was used last, marked where it could be retired. */
const { id } = defineProps<{ id: string }>()
const definitions = useDefinitions()
const session = useSession()
const words = computed(() => {
  const last = definitions.usage.last[id]
  return last === undefined ? 'never' : agoWords(last, session.now)
})
</script>

<template>
  <span :class="['nowrap', definitions.isUnused(id, 180) ? 'warn' : 'quiet']">{{ words }}</span>
</template>
