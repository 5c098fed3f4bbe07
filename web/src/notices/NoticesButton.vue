<script setup lang="ts">
import { Bell } from '@lucide/vue'
import Button from 'primevue/button'
import { onMounted } from 'vue'
import { whenChanged } from '../api/whenChanged.ts'
import { counted } from '../parts/words.ts'
import { useNotices } from './notices.store.ts'

/** The way to what is new, with how much there is. */
const notices = useNotices()
/** How long changes are gathered before they are counted anew, in milliseconds. */
const calmly = 4000

// A count that cannot be had is told by the page itself.
const recount = (): void => void notices.recount().catch(() => undefined)
onMounted(recount)
whenChanged(recount, calmly)
</script>

<template>
  <Button
    as="router-link"
    to="/notices"
    severity="secondary"
    class="notices"
    :aria-label="`Notices: ${counted(notices.count, 'item')} with something new`"
    title="What is new"
    ><Bell :size="16" :stroke-width="1.5" aria-hidden="true" /><span
      v-if="notices.count"
      class="count"
      >{{ notices.count > 99 ? '99+' : notices.count }}</span
    ></Button
  >
</template>

<style scoped>
.notices {
  gap: 7px;
  color: var(--ink);
}
.count {
  font-variant-numeric: tabular-nums;
}
</style>
