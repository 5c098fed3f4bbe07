<script setup lang="ts">
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import { reactive, ref } from 'vue'
import type { PersonAnswer, Role } from '@bluestem/core/people'
import { ApiProblem, call, messageOf, type ProblemPart } from '../../api/http.ts'
import Choice from '../../parts/Choice.vue'
import Sheet from '../../parts/Sheet.vue'
import { useNotes } from '../../parts/notes.store.ts'
import { useLiving } from '../living.store.ts'

/** A person added by hand, or changed: how they sign in, and what they may do. */
const { person } = defineProps<{ person?: PersonAnswer }>()
const emit = defineEmits<{ close: []; kept: [string] }>()
const living = useLiving()
const notes = useNotes()
const roles: readonly { readonly id: Role; readonly title: string }[] = [
  { id: 'viewer', title: 'viewer: looks at everything open' },
  { id: 'member', title: 'member: works on items, saves queries and views' },
  { id: 'administrator', title: 'administrator: defines and adds people as well' },
]
const form = reactive({
  name: person?.name ?? '',
  email: person?.email ?? '',
  role: person?.role ?? ('member' as Role),
  password: '',
  active: person?.active ?? true,
})
const wrong = ref<readonly ProblemPart[]>([])
const refusal = ref('')
const busy = ref(false)
const wrongAt = (pointer: string): string | undefined =>
  wrong.value.find((one) => one.pointer === pointer)?.message

async function save(): Promise<string> {
  const { name, email, role, password, active } = form
  if (!person)
    return (await call<PersonAnswer>('POST', '/people', { name, email, role, password })).body.id
  await call(
    'PATCH',
    `/people/${person.id}`,
    { name, email, role, active, ...(password ? { password } : {}) },
    { 'If-Match': `"${person.version}"` },
  )
  return person.id
}

async function keep(): Promise<void> {
  busy.value = true
  wrong.value = []
  refusal.value = ''
  try {
    const id = await save()
    await living.load()
    notes.show('well', person ? `${form.name} is changed.` : `${form.name} can sign in now.`)
    emit('kept', id)
    emit('close')
  } catch (error) {
    wrong.value = error instanceof ApiProblem ? error.errors : []
    if (wrong.value.length === 0) refusal.value = messageOf(error)
  }
  busy.value = false
}
</script>

<template>
  <Sheet :title="person ? `Change ${person.name}` : 'Add a person'" @close="emit('close')">
    <form @submit.prevent="keep">
      <label class="field"
        ><span>Name</span
        ><InputText
          v-model="form.name"
          required
          maxlength="80"
          autofocus
          :invalid="!!wrongAt('/name')"
          fluid
        />
        <span v-if="wrongAt('/name')" class="told" role="alert">{{ wrongAt('/name') }}</span></label
      >
      <label class="field"
        ><span>E-mail address, by which they sign in</span
        ><InputText
          v-model="form.email"
          type="email"
          required
          maxlength="300"
          autocomplete="off"
          :invalid="!!wrongAt('/email')"
          fluid
        />
        <span v-if="wrongAt('/email')" class="told" role="alert">{{
          wrongAt('/email')
        }}</span></label
      >
      <label class="field"
        ><span>What they may do</span
        ><Choice v-model="form.role" label="What they may do" :options="roles"
      /></label>
      <label class="field"
        ><span>{{
          person
            ? 'A new password (leave empty to keep theirs; it signs them out everywhere)'
            : 'First password, at least eight characters; they can change it themselves'
        }}</span
        ><InputText
          v-model="form.password"
          :required="!person"
          minlength="8"
          maxlength="1000"
          autocomplete="off"
          :invalid="!!wrongAt('/password')"
          fluid
        />
        <span v-if="wrongAt('/password')" class="told" role="alert">{{
          wrongAt('/password')
        }}</span></label
      >
      <label v-if="person" class="field"
        ><Checkbox v-model="form.active" binary /> may sign in (without it their name stays in
        history, and nothing more)</label
      >
      <p v-if="refusal" class="told" role="alert">{{ refusal }}</p>
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
