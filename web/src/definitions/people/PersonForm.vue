<script setup lang="ts">
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import { reactive, ref } from 'vue'
import type { PersonAnswer, Role } from '@bluestem/core/people'
import Choice from '../../parts/Choice.vue'
import Labelled from '../../parts/Labelled.vue'
import Sheet from '../../parts/Sheet.vue'
import { useNotes } from '../../parts/notes.store.ts'
import { useRefusal } from '../../parts/refusal.ts'
import { useLiving } from '../store/living.store.ts'
import InvitationSheet from './InvitationSheet.vue'

/** A person added by hand, or changed: how they sign in, and what they may do. */
const { person } = defineProps<{ person?: PersonAnswer }>()
const emit = defineEmits<{ close: []; kept: [string] }>()
const living = useLiving()
const notes = useNotes()
const { attempt, at, words, busy } = useRefusal()
const roles: readonly { readonly id: Role; readonly title: string }[] = [
  { id: 'viewer', title: 'viewer: looks at everything open' },
  { id: 'member', title: 'member: works on items, saves queries and views' },
  { id: 'administrator', title: 'administrator: defines and adds people as well' },
]
/** whoever was added without a password, and is told an address to send */
const invited = ref<PersonAnswer>()
const usualRole: Role = 'member'
const form = reactive({
  name: person?.name ?? '',
  email: person?.email ?? '',
  role: person?.role ?? usualRole,
  password: '',
  active: person?.active ?? true,
})

async function save(): Promise<PersonAnswer> {
  const { name, email, role, password, active } = form
  return person
    ? await living.send('PATCH /people/{id}', {
        params: { id: person.id },
        body: { name, email, role, active, ...(password ? { password } : {}) },
        match: person.version,
      })
    : await living.send('POST /people', {
        body: { name, email, role, ...(password ? { password } : {}) },
      })
}

const keep = async (): Promise<void> =>
  void (await attempt(async () => {
    const saved = await save()
    if (person) notes.show('well', `${form.name} is changed.`)
    else if (form.password) notes.show('well', `${form.name} can sign in now.`)
    else invited.value = saved
    emit('kept', saved.id)
    if (!invited.value) emit('close')
  }))
</script>

<template>
  <InvitationSheet v-if="invited" :person="invited" @close="emit('close')" />
  <Sheet v-else :title="person ? `Change ${person.name}` : 'Add a person'" @close="emit('close')">
    <form @submit.prevent="keep">
      <Labelled label="Name" :wrong="at('/name')"
        ><InputText
          v-model="form.name"
          required
          maxlength="80"
          autofocus
          :invalid="!!at('/name')"
          fluid
      /></Labelled>
      <Labelled label="E-mail address, by which they sign in" :wrong="at('/email')"
        ><InputText
          v-model="form.email"
          type="email"
          required
          maxlength="300"
          autocomplete="off"
          :invalid="!!at('/email')"
          fluid
      /></Labelled>
      <Labelled label="What they may do"
        ><Choice v-model="form.role" label="What they may do" :options="roles"
      /></Labelled>
      <Labelled
        :label="
          person
            ? 'A new password (leave empty to keep theirs; it signs them out everywhere)'
            : 'First password, at least eight characters (leave empty to invite them by an address)'
        "
        :wrong="at('/password')"
        ><InputText
          v-model="form.password"
          minlength="8"
          maxlength="1000"
          autocomplete="off"
          :invalid="!!at('/password')"
          fluid
      /></Labelled>
      <label v-if="person" class="field"
        ><Checkbox v-model="form.active" binary /> may sign in (without it their name stays in
        history, and nothing more)</label
      >
      <p v-if="words" class="told" role="alert">{{ words }}</p>
      <div class="acts">
        <Button type="submit" :disabled="busy" :label="person ? 'Save' : 'Add them'" /><Button
          severity="secondary"
          label="Not now"
          @click="emit('close')"
        />
      </div>
    </form>
  </Sheet>
</template>
