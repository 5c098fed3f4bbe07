<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Checkbox from 'primevue/checkbox'
import Textarea from 'primevue/textarea'
import Choice from '../../parts/Choice.vue'
import { computed, reactive, ref } from 'vue'
import { entriesOf, inOrder, type Edit } from '@bluestem/core/definitions'
import Sheet from '../../parts/Sheet.vue'
import FormActs from '../chapter/FormActs.vue'
import { useDefinitions } from '../store/definitions.store.ts'

const { id } = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const definitions = useDefinitions()
/** the definitions the form was opened with, by which is told what was changed in it */
const opened = definitions.document
const known = definitions.document.types[id]
const types = computed(() => inOrder(definitions.document.types).filter((type) => !type.retired))
const form = reactive({
  title: known?.title ?? '',
  monogram: known?.monogram ?? '',
  tier: known?.tier ?? 1,
  description: known?.description ?? '',
})
const anyBelow = ref(known?.below === undefined)
const below = ref([...(known?.below ?? [])])
const lower = computed(() => types.value.filter((type) => type.tier < form.tier && type.id !== id))
const like = ref(types.value[0]?.id ?? '')
const busy = ref(false)

/** A new type begins with the flow and the forms of another; the grid changes them after. */
function entriesLike(type: string): Edit[] {
  const prefixed = /^(type|status|move|form|requirement):([^:]+)/
  return [...entriesOf(definitions.document, definitions.rulebook)].flatMap(
    ([key, entry]): Edit[] => {
      const [, kind, of] = prefixed.exec(key) ?? []
      return kind && of === like.value
        ? [definitions.sayEntry(key.replace(`${kind}:${of}`, `${kind}:${type}`), entry)]
        : []
    },
  )
}

function edits(): Edit[] {
  const belowOnes = anyBelow.value
    ? undefined
    : below.value.filter((entry) => lower.value.some((type) => type.id === entry))
  if (known)
    return [
      ...(['title', 'monogram', 'tier', 'description'] as const).map((part) => ({
        path: ['types', id, part],
        after: form[part],
      })),
      { path: ['types', id, 'below'], after: belowOnes },
    ]
  const made = definitions.newId('types')
  return [
    {
      path: ['types', made],
      after: {
        order: definitions.lastOrder(definitions.document.types),
        ...form,
        ...(belowOnes ? { below: belowOnes } : {}),
      },
    },
    ...(like.value ? entriesLike(made) : [definitions.sayEntry(`type:${made}`, {})]),
  ]
}

async function keep(atOnce = false): Promise<void> {
  busy.value = true
  if (
    atOnce
      ? await definitions.publishAtOnce(edits(), `The type ${form.title}.`, opened)
      : await definitions.edit(edits(), [], opened)
  )
    emit('close')
  busy.value = false
}
const tiers = [
  { id: 0, title: '0  the smallest' },
  { id: 1, title: '1' },
  { id: 2, title: '2' },
  { id: 3, title: '3' },
  { id: 4, title: '4  the largest' },
]
</script>

<template>
  <Sheet :title="known ? `Change ${known.title}` : 'New type'" @close="emit('close')">
    <form @submit.prevent="keep()">
      <div class="row">
        <label class="field grow"
          ><span>Title</span
          ><InputText v-model="form.title" required maxlength="80" autofocus fluid /></label
        ><label class="field mono"
          ><span>Two letters</span
          ><InputText
            v-model="form.monogram"
            required
            maxlength="2"
            pattern="\p{Lu}\p{Ll}"
            title="A capital and a small letter, such as De"
            fluid
        /></label>
      </div>
      <label class="field"
        ><span>Tier: a parent is always of a higher one</span
        ><Choice v-model="form.tier" label="Tier" :options="tiers"
      /></label>
      <fieldset v-if="lower.length" class="field">
        <legend>What may stand below it</legend>
        <label><Checkbox v-model="anyBelow" binary /> anything of a lower tier</label
        ><template v-if="!anyBelow"
          ><label v-for="type in lower" :key="type.id"
            ><Checkbox v-model="below" :value="type.id" /> {{ type.title }}</label
          ></template
        >
      </fieldset>
      <label class="field"
        ><span>When to use it</span
        ><Textarea v-model="form.description" rows="2" maxlength="2000" fluid />
      </label>
      <label v-if="!known && types.length" class="field"
        ><span>Begins with the flow and forms of</span
        ><Choice
          v-model="like"
          label="Begins with the flow and forms of"
          none="nothing"
          :options="types.map((type) => ({ id: type.id, title: type.title }))"
      /></label>
      <FormActs
        :busy="busy"
        :small="Boolean(known) && definitions.mayDefineAll"
        @close="emit('close')"
        @at-once="keep(true)"
      />
    </form>
  </Sheet>
</template>

<style scoped>
.mono {
  width: 90px;
}
</style>
