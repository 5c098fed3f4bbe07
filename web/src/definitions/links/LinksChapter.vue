<script setup lang="ts">
import Ledger from '../../parts/Ledger.vue'
import Column from 'primevue/column'
import InputText from 'primevue/inputtext'
import Checkbox from 'primevue/checkbox'
import Textarea from 'primevue/textarea'
import Button from 'primevue/button'
import { computed, reactive, ref } from 'vue'
import { entriesOf, inOrder, type Edit } from '@bluestem/core/definitions'
import Sheet from '../../parts/Sheet.vue'
import { numberWords } from '../../parts/words.ts'
import ChapterHead from '../chapter/ChapterHead.vue'
import EntryMargin from '../chapter/EntryMargin.vue'
import FormActs from '../chapter/FormActs.vue'
import RulebookChoice from '../chapter/RulebookChoice.vue'
import { useDefinitions } from '../store/definitions.store.ts'
import { useSelected } from '../chapter/selected.ts'

const definitions = useDefinitions()
const selected = useSelected()
const editing = ref<string | 'new'>()
let opened = definitions.document
const busy = ref(false)
const form = reactive<{
  title: string
  inverse: string
  description: string
  from: string[]
  to: string[]
  refusesCircles: boolean
}>({
  title: '',
  inverse: '',
  description: '',
  from: [],
  to: [],
  refusesCircles: false,
})
const kinds = computed(() => inOrder(definitions.document.linkKinds))
const chosen = computed(
  () => kinds.value.find((kind) => kind.id === selected.value) ?? kinds.value[0],
)
const types = computed(() => inOrder(definitions.document.types).filter((type) => !type.retired))
const offered = (id: string): boolean =>
  entriesOf(definitions.document, definitions.rulebook).has(`link:${id}`)
const may = computed(() => definitions.mayChange(definitions.rulebook))
const titles = (ids: readonly string[] | undefined): string =>
  ids?.length ? ids.map((id) => definitions.document.types[id]?.title ?? id).join(', ') : 'any type'

function open(id: string | 'new'): void {
  const known = definitions.document.linkKinds[id]
  Object.assign(form, {
    title: known?.title ?? '',
    inverse: known?.inverse ?? '',
    description: known?.description ?? '',
    from: [...(known?.from ?? [])],
    to: [...(known?.to ?? [])],
    refusesCircles: known?.refusesCircles ?? false,
  })
  editing.value = id
  opened = definitions.document
}
function edits(): Edit[] {
  const id = editing.value ?? ''
  const known = definitions.document.linkKinds[id]
  const value = {
    title: form.title,
    inverse: form.inverse,
    description: form.description,
    ...(form.from.length ? { from: [...form.from] } : {}),
    ...(form.to.length ? { to: [...form.to] } : {}),
    ...(form.refusesCircles ? { refusesCircles: true } : {}),
  }
  if (known)
    return (['title', 'inverse', 'description', 'from', 'to', 'refusesCircles'] as const).map(
      (part) => ({ path: ['linkKinds', id, part], after: value[part] }),
    )
  const made = definitions.newId('linkKinds')
  return [
    {
      path: ['linkKinds', made],
      after: { order: definitions.lastOrder(definitions.document.linkKinds), ...value },
    },
    definitions.sayEntry(`link:${made}`, {}),
  ]
}
async function keep(atOnce = false): Promise<void> {
  busy.value = true
  if (
    atOnce
      ? await definitions.publishAtOnce(edits(), `The link kind ${form.title}.`, opened)
      : await definitions.edit(edits(), [], opened)
  )
    editing.value = undefined
  busy.value = false
}
</script>

<template>
  <section class="sheet">
    <ChapterHead
      about="Relations between items, with a name in each direction."
      title="Links"
      make="New link kind"
      :may="definitions.mayDefineAll"
      @make="open('new')"
      ><span>offered in rulebook</span><RulebookChoice
    /></ChapterHead>
    <Ledger
      v-if="kinds.length"
      :rows="kinds"
      label="Link kinds"
      :selected="chosen?.id"
      :mark="
        (kind) => ({
          'in-draft': definitions.isChanged('linkKinds', kind.id),
          retired: kind.retired,
        })
      "
      @update:selected="selected = $event"
      @open="(kind) => definitions.mayDefineAll && open(kind.id)"
      ><Column header="One way" class="nowrap"
        ><template #body="{ data: kind }">{{ kind.title }}</template></Column
      >
      <Column header="The other way" class="nowrap"
        ><template #body="{ data: kind }">{{ kind.inverse }}</template></Column
      >
      <Column header="Joins"
        ><template #body="{ data: kind }"
          ><span class="quiet">{{ titles(kind.from) }} → {{ titles(kind.to) }}</span></template
        ></Column
      >
      <Column header="Circles"
        ><template #body="{ data: kind }"
          ><span class="quiet">{{ kind.refusesCircles ? 'refused' : 'allowed' }}</span></template
        ></Column
      >
      <Column header="Here"
        ><template #body="{ data: kind }"
          ><span class="quiet">{{ offered(kind.id) ? 'offered' : '–' }}</span></template
        ></Column
      >
      <Column header="Items" class="num"
        ><template #body="{ data: kind }">{{
          numberWords(definitions.items(kind.id))
        }}</template></Column
      ></Ledger
    >
    <p v-else class="blank">
      Here the kinds of links would stand, such as <i>waits for</i> and <i>holds up</i>.
    </p>
    <Sheet
      v-if="editing"
      :title="
        editing === 'new'
          ? 'New link kind'
          : `Change ${definitions.document.linkKinds[editing]?.title}`
      "
      wide
      @close="editing = undefined"
    >
      <form @submit.prevent="keep()">
        <div class="row">
          <label class="field grow"
            ><span>One item …</span
            ><InputText
              v-model="form.title"
              required
              maxlength="80"
              placeholder="waits for"
              autofocus
              fluid /></label
          ><label class="field grow"
            ><span>… and the other …</span
            ><InputText v-model="form.inverse" required maxlength="80" placeholder="holds up" fluid
          /></label>
        </div>
        <fieldset class="field">
          <legend>From items of (none ticked: any)</legend>
          <label v-for="type in types" :key="type.id"
            ><Checkbox v-model="form.from" :value="type.id" /> {{ type.title }}</label
          >
        </fieldset>
        <fieldset class="field">
          <legend>To items of (none ticked: any)</legend>
          <label v-for="type in types" :key="type.id"
            ><Checkbox v-model="form.to" :value="type.id" /> {{ type.title }}</label
          >
        </fieldset>
        <label class="field"
          ><Checkbox v-model="form.refusesCircles" binary /> refuse a link that would close a
          circle</label
        >
        <label class="field"
          ><span>When to use it</span
          ><Textarea v-model="form.description" rows="2" maxlength="2000" fluid />
        </label>
        <FormActs
          :busy="busy"
          :small="editing !== 'new'"
          @close="editing = undefined"
          @at-once="keep(true)"
        />
      </form>
    </Sheet>
  </section>
  <EntryMargin
    v-if="chosen"
    :id="chosen.id"
    :title="chosen.title"
    :sub="`the other way: ${chosen.inverse}`"
    :description="chosen.description"
    :filter="{ op: 'a_contains', args: [{ property: 'links' }, [chosen.id]] }"
    touches=""
  >
    <template #acts
      ><Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="open(chosen.id)"
        label="Change" /><Button
        severity="secondary"
        v-if="may"
        @click="
          definitions.edit([
            definitions.sayEntry(`link:${chosen.id}`, offered(chosen.id) ? null : {}),
          ])
        "
        :label="
          offered(chosen.id) ? 'Leave out of this rulebook' : 'Offer in this rulebook'
        " /><Button
        severity="secondary"
        v-if="definitions.mayDefineAll"
        @click="definitions.retire('linkKinds', chosen.id, !chosen.retired)"
        :label="chosen.retired ? 'Bring back' : 'Retire'"
    /></template>
  </EntryMargin>
</template>
