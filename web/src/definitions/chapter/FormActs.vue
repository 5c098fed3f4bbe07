<script setup lang="ts">
import Button from 'primevue/button'
/** The foot of a form of definitions: into the draft, or published at once where the change is small. */
const { busy, small = false } = defineProps<{ busy: boolean; small?: boolean }>()
const emit = defineEmits<{ close: []; atOnce: [] }>()
</script>

<template>
  <div class="acts">
    <Button type="submit" :disabled="busy" label="Put it in the draft" /><Button
      severity="secondary"
      v-if="small"
      :disabled="busy"
      @click="emit('atOnce')"
      label="Publish it at once"
    /><Button severity="secondary" @click="emit('close')" label="Not now" />
  </div>
</template>
