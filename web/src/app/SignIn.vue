<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Button from 'primevue/button'
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { messageOf } from '../api/http.ts'
import { useSession } from './session.store.ts'

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
  <section class="entry">
    <svg
      class="sprig"
      viewBox="0 0 200 260"
      fill="none"
      stroke="currentColor"
      stroke-width="1.2"
      stroke-linecap="round"
      aria-hidden="true"
    >
      <path d="M96 258C94 190 100 90 132 12" />
      <path class="leaf" d="M98 190C66 184 44 160 38 122c34 6 56 32 60 68Z" />
      <path class="leaf" d="M104 138c36-2 60-20 74-52-37 0-62 18-74 52Z" />
      <path class="leaf" d="M109 96C84 88 70 68 70 40c26 9 40 28 39 56Z" />
      <path class="leaf" d="M120 58c22-4 36-18 42-40-24 2-38 16-42 40Z" />
    </svg>
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
  </section>
</template>

<style scoped>
.entry {
  flex: 1;
  display: grid;
  grid-template-columns: minmax(180px, 300px) 320px;
  gap: 72px;
  place-content: center;
  align-items: center;
}
.sprig {
  color: var(--stem);
  width: 100%;
  justify-self: end;
  max-height: 60vh;
}
.leaf {
  fill: var(--stem-wash);
}
h1 {
  font-size: 44px;
}
.meta {
  font: 400 17px/1.4 var(--serif);
  margin: 8px 0 26px;
}
form {
  border-left: 1px solid var(--rule);
  padding: 20px 0 20px 40px;
}
button {
  margin-top: 6px;
  padding: 6px 20px;
}
</style>
