<script setup lang="ts">
import type { WholeItemAnswer } from '@bluestem/core/work'
import type { OfferedTemplate } from '@bluestem/core/projects'
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import { written } from '../parts/eventTarget.ts'
import Choice from '../parts/Choice.vue'
import RadioButton from 'primevue/radiobutton'
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import type { ApplicationAnswer } from '@bluestem/core/templates'
import { computed, reactive, ref, watch } from 'vue'
import { messageOf, call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import Sheet from '../parts/Sheet.vue'
import ValueText from '../parts/ValueText.vue'

/** A template applied to an item that exists: what is empty only, or everything it gives; looked at before it is kept. */
const { item, templates } = defineProps<{
  item: WholeItemAnswer
  templates: readonly OfferedTemplate[]
}>()
const emit = defineEmits<{ close: []; applied: [] }>()
const vocabulary = useVocabulary()
const chosen = ref(
  templates.find((template) => template.type === item.type.id)?.id ?? templates[0]?.id ?? '',
)
const how = ref<'fill' | 'replace'>('fill')
const blanks = reactive<Record<string, string>>({})
const preview = ref<ApplicationAnswer>()
const told = ref('')
const busy = ref(false)
const template = computed(() => templates.find((template) => template.id === chosen.value))
const body = (keep: boolean) => ({
  ref: item.ref,
  how: how.value,
  keep,
  blanks: Object.fromEntries(Object.entries(blanks).filter(([, value]) => value)),
})
const rows = computed(() => [
  ...Object.entries(preview.value?.values ?? {}).map(([handle, after]) => ({
    handle,
    after,
    before: preview.value?.before.values[handle],
  })),
  ...Object.entries(preview.value?.fields ?? {}).map(([handle, after]) => ({
    handle,
    after,
    before: preview.value?.before.fields[handle],
  })),
])
/** a value as it is given, shown as one that items hold */
const shown = (handle: string, value: unknown): unknown => {
  const named = (entry: unknown): unknown =>
    vocabulary.choices(handle).find((choice) => choice.id === entry) ?? entry
  return Array.isArray(value) ? value.map(named) : named(value)
}

watch(
  [chosen, how, blanks],
  async () => {
    if (!chosen.value) return
    try {
      preview.value = await call('POST /templates/{id}/apply', {
        params: { id: chosen.value },
        body: body(false),
      })
      told.value = ''
    } catch (error) {
      preview.value = undefined
      told.value = messageOf(error)
    }
  },
  { immediate: true, deep: true },
)

async function apply(): Promise<void> {
  busy.value = true
  try {
    await call('POST /templates/{id}/apply', {
      params: { id: chosen.value },
      body: body(true),
      match: item.etag,
    })
    emit('applied')
    emit('close')
  } catch (error) {
    told.value = messageOf(error)
  }
  busy.value = false
}
</script>

<template>
  <Sheet :title="`Apply a template to ${item.ref}`" wide @close="emit('close')">
    <form @submit.prevent="apply">
      <label class="field"
        ><span>Template</span
        ><Choice
          v-model="chosen"
          label="Template"
          :options="templates.map((row) => ({ id: row.id, title: row.title }))"
      /></label>
      <fieldset class="field">
        <legend>It gives</legend>
        <label><RadioButton v-model="how" name="how" value="fill" /> what is empty</label
        ><label
          ><RadioButton v-model="how" name="how" value="replace" /> everything it says, in place of
          what is there</label
        >
      </fieldset>
      <label v-for="blank in template?.blanks ?? []" :key="blank" class="field"
        ><span>{{ blank }}</span
        ><InputText
          :model-value="blanks[blank] ?? ''"
          @change="blanks[blank] = written($event)"
          maxlength="300"
          fluid
      /></label>
      <p v-if="told" class="told" role="alert">{{ told }}</p>
      <DataTable
        v-if="rows.length"
        :value="[...rows]"
        data-key="handle"
        table-class="ledger"
        :table-props="{ 'aria-label': 'What it would change' }"
        ><Column header="Field"
          ><template #body="{ data: row }">{{ vocabulary.title(row.handle) }}</template></Column
        >
        <Column header="Now"
          ><template #body="{ data: row }"
            ><span class="quiet"
              ><ValueText :handle="row.handle" :value="row.before" /><span
                v-if="row.before === null"
                >–</span
              ></span
            ></template
          ></Column
        >
        <Column header="Then"
          ><template #body="{ data: row }"
            ><ValueText
              :handle="row.handle"
              :value="shown(row.handle, row.after)" /></template></Column
      ></DataTable>
      <p v-else-if="preview" class="quiet">
        Nothing would change{{ how === 'fill' ? ': what it gives is filled already' : '' }}.
      </p>
      <p v-for="entry in preview?.left" :key="entry.message" class="warn">
        Left out: {{ entry.message }}
      </p>
      <div class="acts foot">
        <Button type="submit" :disabled="busy || rows.length === 0" label="Apply it" /><Button
          severity="secondary"
          @click="emit('close')"
          label="Not now"
        />
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
.foot {
  margin-top: 14px;
}
</style>
