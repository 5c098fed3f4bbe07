<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { messageOf } from '../api/http.ts'
import EntryFrame from './EntryFrame.vue'
import { useSession } from '../session/session.store.ts'

const session = useSession()
const router = useRouter()
const route = useRoute()
const [email, password, told, busy] = [ref(''), ref(''), ref(''), ref(false)]

async function enter(): Promise<void> {
  busy.value = true
  told.value = ''
  try {
    await session.signIn(email.value, password.value)
    const next = route.query['next']
    await router.push(
      typeof next === 'string' && next.startsWith('/') && !next.startsWith('//') ? next : '/',
    )
  } catch (error) {
    told.value = messageOf(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <EntryFrame>
    <form @submit.prevent="enter">
      <h1>Bluestem</h1>
      <p class="meta">One vocabulary, and every question asked in it.</p>
      <label class="field"
        ><span>E-mail</span
        ><InputText v-model="email" type="email" autocomplete="username" required autofocus fluid
      /></label>
      <label class="field"
        ><span>Password</span
        ><InputText
          v-model="password"
          type="password"
          autocomplete="current-password"
          required
          fluid
      /></label>
      <p v-if="told" class="told" role="alert">{{ told }}</p>
      <Button type="submit" :disabled="busy" label="Sign in" />
    </form>
  </EntryFrame>
</template>
