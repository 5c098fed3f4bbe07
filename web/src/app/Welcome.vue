<script setup lang="ts">
import type { InvitedAnswer } from '@bluestem/core/people'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call, messageOf } from '../api/http.ts'
import EntryFrame from './EntryFrame.vue'
import { useSession } from '../session/session.store.ts'

/** Where somebody comes by an invitation: they choose a password and are in. The secret stands behind the number sign, which no request holds. */
const session = useSession()
const router = useRouter()
const secret = useRoute().hash.slice(1)
const invited = ref<InvitedAnswer>()
const [password, told, busy] = [ref(''), ref(''), ref(false)]

onMounted(async () => {
  try {
    invited.value = await call('POST /invitation', { body: { secret } })
  } catch (error) {
    told.value = messageOf(error)
  }
})

async function enter(): Promise<void> {
  busy.value = true
  told.value = ''
  try {
    await call('POST /invitation/accepted', { body: { secret, password: password.value } })
    await session.load()
    await router.push('/')
  } catch (error) {
    told.value = messageOf(error)
  }
  busy.value = false
}
</script>

<template>
  <EntryFrame>
    <form v-if="invited" @submit.prevent="enter">
      <h1>{{ invited.workspace }}</h1>
      <p class="meta">Welcome, {{ invited.name }}. Choose a password, and you are in.</p>
      <label class="field"
        ><span>You sign in by</span
        ><InputText :model-value="invited.email" autocomplete="username" readonly fluid
      /></label>
      <label class="field"
        ><span>A password, at least eight characters</span
        ><InputText
          v-model="password"
          type="password"
          autocomplete="new-password"
          required
          minlength="8"
          maxlength="1000"
          autofocus
          fluid
      /></label>
      <p v-if="told" class="told" role="alert">{{ told }}</p>
      <Button type="submit" :disabled="busy" label="Come in" />
    </form>
    <div v-else>
      <h1>Bluestem</h1>
      <p v-if="told" class="told" role="alert">{{ told }}</p>
      <p v-else class="meta">Your invitation is looked up …</p>
      <p v-if="told"><RouterLink to="/sign-in">Sign in by a password you have</RouterLink></p>
    </div>
  </EntryFrame>
</template>
