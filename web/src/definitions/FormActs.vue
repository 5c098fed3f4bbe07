<script setup lang="ts">
/** The foot of a form of definitions: into the draft, or published at once where the change is small. */
const { busy, small = false } = defineProps<{ busy: boolean; small?: boolean }>()
const emit = defineEmits<{ close: []; atOnce: [] }>()
</script>

<template>
  <div class="acts">
    <button class="act main" type="submit" :disabled="busy">Put it in the draft</button
    ><button v-if="small" class="act" type="button" :disabled="busy" @click="emit('atOnce')">
      Publish it at once</button
    ><button class="act" type="button" @click="emit('close')">Not now</button>
  </div>
</template>
