<script setup lang="ts">
import { Columns3, Minus, Plus } from '@lucide/vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import Popover from 'primevue/popover'
import { computed, ref } from 'vue'
import { type ColumnWishes, sized } from './columnWishes.ts'

/** Which columns of a table are seen, and how wide. One always stays. */
const wishes = defineModel<ColumnWishes>({ required: true })
const { headers, label, widthOf } = defineProps<{
  headers: readonly string[]
  label: string
  /** how wide a column is now, in pixels */
  widthOf: (header: string) => number
}>()
const popover = ref<InstanceType<typeof Popover>>()
const isOpen = ref(false)
const seen = computed({
  get: () => headers.filter((header) => !wishes.value.hidden.includes(header)),
  set: (chosen) =>
    (wishes.value = {
      ...wishes.value,
      hidden: headers.filter((header) => !chosen.includes(header)),
    }),
})
const isAsItComes = computed(
  () => seen.value.length === headers.length && Object.keys(wishes.value.widths).length === 0,
)
const size = (header: string, by: 1 | -1): unknown =>
  (wishes.value = sized(wishes.value, header, widthOf(header), by))
</script>

<template>
  <Button
    variant="text"
    severity="secondary"
    size="small"
    :class="['wishes', { some: !isAsItComes }]"
    :aria-label="`Columns of ${label}: ${seen.length} of ${headers.length} seen`"
    :title="`Columns: ${seen.length} of ${headers.length} seen`"
    aria-haspopup="dialog"
    :aria-expanded="isOpen"
    @click.stop="popover?.toggle($event)"
  >
    <Columns3 class="icon" />
  </Button>
  <Popover
    ref="popover"
    append-to="#lists"
    :aria-label="`Columns of ${label}`"
    @show="isOpen = true"
    @hide="isOpen = false"
  >
    <div v-for="header in headers" :key="header" class="one">
      <label class="grow"
        ><Checkbox
          v-model="seen"
          :value="header"
          :disabled="seen.length === 1 && seen[0] === header"
        />
        {{ header }}</label
      >
      <Button
        variant="text"
        severity="secondary"
        size="small"
        :aria-label="`${header} narrower`"
        :disabled="!seen.includes(header)"
        @click="size(header, -1)"
        ><Minus class="icon"
      /></Button>
      <Button
        variant="text"
        severity="secondary"
        size="small"
        :aria-label="`${header} wider`"
        :disabled="!seen.includes(header)"
        @click="size(header, 1)"
        ><Plus class="icon"
      /></Button>
    </div>
    <Button
      variant="link"
      label="As they come"
      :disabled="isAsItComes"
      @click="wishes = { hidden: [], widths: {} }"
    />
  </Popover>
</template>

<style scoped>
.wishes {
  padding: 2px;
  min-height: 24px;
}
.some {
  color: var(--stem);
}
.one {
  display: flex;
  gap: 4px;
  align-items: center;
  min-width: 220px;
}
.one button {
  min-width: 26px;
  min-height: 26px;
  padding: 0;
}
.one label {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 3px 6px;
}
</style>
