<script setup lang="ts">
import Button from 'primevue/button'
import Popover from 'primevue/popover'
import { ref } from 'vue'

/** A word in a line that unfolds something beside it; Escape or a click elsewhere folds it again. */
const { title } = defineProps<{ title: string }>()
const popover = ref<InstanceType<typeof Popover>>()
const isOpen = ref(false)
</script>

<template>
  <Button
    variant="link"
    class="edit"
    :label="title"
    aria-haspopup="dialog"
    :aria-expanded="isOpen"
    @click="popover?.toggle($event)"
  />
  <Popover
    ref="popover"
    append-to="#lists"
    :aria-label="title"
    @show="isOpen = true"
    @hide="isOpen = false"
  >
    <div class="unfolded"><slot /></div>
  </Popover>
</template>

<style scoped>
.unfolded {
  width: 264px;
  padding: 0 4px;
  max-height: 420px;
  overflow: auto;
}
</style>
