<script setup lang="ts">
import type { LabelAnswer } from '@bluestem/core/labels'
import InputText from 'primevue/inputtext'
import Choice from '../../parts/Choice.vue'
import Textarea from 'primevue/textarea'
import Button from 'primevue/button'
import { computed, reactive, ref } from 'vue'
import { nearness } from '@bluestem/core/consistency'
import { inOrder } from '@bluestem/core/definitions'
import Sheet from '../../parts/Sheet.vue'
import { counted } from '../../parts/words.ts'
import ColourChoice from '../chapter/ColourChoice.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** A label made or changed; while its title is written, labels that say nearly the same are shown. */
const { label } = defineProps<{ label?: LabelAnswer }>()
const emit = defineEmits<{ close: []; kept: [string] }>()
const definitions = useDefinitions()
const living = useLiving()
const form = reactive({
  title: label?.title ?? '',
  family: label?.family ?? '',
  project: label?.project ?? '',
  colour: label?.colour ?? 1,
  description: label?.description ?? '',
})
const busy = ref(false)
const families = computed(() =>
  inOrder(definitions.document.families).filter(
    (family) => !family.retired && definitions.published.families[family.id],
  ),
)
const near = computed(() =>
  form.title.trim().length < 2
    ? []
    : living.labels
        .filter(
          (entry) =>
            entry.id !== label?.id &&
            !entry.retired &&
            nearness(entry.title, form.title) !== 'different',
        )
        .slice(0, 6),
)
const where = (entry: LabelAnswer): string =>
  [
    entry.family && definitions.document.families[entry.family]?.title,
    entry.project && living.projectTitle.get(entry.project),
  ]
    .filter(Boolean)
    .join(', ')

async function keep(): Promise<void> {
  busy.value = true
  const given = {
    title: form.title,
    family: form.family || null,
    project: form.project || null,
    colour: form.colour,
    description: form.description,
  }
  const made = label
    ? await living.change('PATCH /labels/{id}', {
        params: { id: label.id },
        body: given,
        match: label.version,
      })
    : await living.change('POST /labels', { body: given })
  busy.value = false
  if (!made) return
  emit('kept', made.id)
  emit('close')
}
</script>

<template>
  <Sheet :title="label ? `Change ${label.title}` : 'New label'" @close="emit('close')">
    <form @submit.prevent="keep">
      <label class="field"
        ><span>Title</span><InputText v-model="form.title" required maxlength="60" autofocus fluid
      /></label>
      <p v-if="near.length" class="near" role="status">
        <span class="warn">Near it:</span>{{ ' '
        }}<span v-for="entry in near" :key="entry.id"
          ><b>{{ entry.title }}</b
          >{{ where(entry) ? ` (${where(entry)})` : '' }},
          {{ counted(definitions.items(entry.id), 'item') }}, exists</span
        >
      </p>
      <div class="row">
        <label class="field grow"
          ><span>Family</span
          ><Choice
            v-model="form.family"
            label="Family"
            none="none"
            :options="
              families.map((family) => ({
                id: family.id,
                title: `${family.title} (pick ${family.pick})`,
              }))
            "
        /></label>
        <label class="field grow"
          ><span>For</span
          ><Choice
            v-model="form.project"
            label="For"
            none="everyone"
            :options="
              living.projects.map((project) => ({ id: project.id, title: `${project.title} only` }))
            "
        /></label>
      </div>
      <div class="field">
        <span>Colour</span><ColourChoice v-model="form.colour" name="Colour" />
      </div>
      <label class="field"
        ><span>When to use it</span
        ><Textarea v-model="form.description" rows="2" maxlength="500" fluid />
      </label>
      <div class="acts">
        <Button type="submit" :disabled="busy" :label="label ? 'Keep' : 'Make the label'" /><Button
          severity="secondary"
          @click="emit('close')"
          label="Not now"
        /><span class="quiet">labels change at once, outside the draft</span>
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
.near {
  font-size: 13px;
  margin: -4px 0 12px;
}
.near span + span {
  margin-right: 10px;
}
.acts {
  align-items: center;
}
</style>
