<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import { nearness } from '@bluestem/core/consistency'
import { inOrder } from '@bluestem/core/definitions'
import type { Label } from './types.ts'
import Sheet from '../parts/Sheet.vue'
import { counted } from '../parts/words.ts'
import ColourChoice from './ColourChoice.vue'
import { useDefinitions } from './definitions.store.ts'
import { useLiving } from './living.store.ts'

/** A label made or changed; while its title is written, labels that say nearly the same are shown. */
const { label } = defineProps<{ label?: Label }>()
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
          (one) =>
            one.id !== label?.id && !one.retired && nearness(one.title, form.title) !== 'different',
        )
        .slice(0, 6),
)
const where = (one: Label): string =>
  [
    one.family && definitions.document.families[one.family]?.title,
    one.project && living.projectTitle.get(one.project),
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
    ? await living.change<Label>('PATCH', `/labels/${label.id}`, given, label.version)
    : await living.change<Label>('POST', '/labels', given)
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
        ><span>Title</span
        ><input v-model="form.title" type="text" required maxlength="60" autofocus
      /></label>
      <p v-if="near.length" class="near" role="status">
        <span class="warn">Near it:</span>{{ ' '
        }}<span v-for="one in near" :key="one.id"
          ><b>{{ one.title }}</b
          >{{ where(one) ? ` (${where(one)})` : '' }},
          {{ counted(definitions.items(one.id), 'item') }}, exists</span
        >
      </p>
      <div class="row">
        <label class="field grow"
          ><span>Family</span
          ><select v-model="form.family">
            <option value="">none</option>
            <option v-for="family in families" :key="family.id" :value="family.id">
              {{ family.title }} (pick {{ family.pick }})
            </option>
          </select></label
        >
        <label class="field grow"
          ><span>For</span
          ><select v-model="form.project">
            <option value="">everyone</option>
            <option v-for="project in living.projects" :key="project.id" :value="project.id">
              {{ project.title }} only
            </option>
          </select></label
        >
      </div>
      <div class="field">
        <span>Colour</span><ColourChoice v-model="form.colour" name="Colour" />
      </div>
      <label class="field"
        ><span>When to use it</span><textarea v-model="form.description" rows="2" maxlength="500" />
      </label>
      <div class="acts">
        <button class="act main" type="submit" :disabled="busy">
          {{ label ? 'Keep' : 'Make the label' }}</button><button
          class="act"
          type="button"
          @click="emit('close')"
        >
          Not now</button
        ><span class="quiet">labels change at once, outside the draft</span>
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
