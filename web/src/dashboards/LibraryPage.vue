<script setup lang="ts">
import Button from 'primevue/button'
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { get, post } from '../api/http.ts'
import type { SavedDashboard } from '../api/types.ts'
import { useSession } from '../app/session.store.ts'
import KeepAs from '../parts/KeepAs.vue'
import { agoWords, counted } from '../parts/words.ts'

const session = useSession()
const router = useRouter()
const dashboards = ref<readonly SavedDashboard[]>()
const making = ref(false)
onMounted(async () => {
  dashboards.value = (
    await get<{ dashboards: readonly SavedDashboard[] }>('/dashboards')
  ).dashboards
})

async function make(given: {
  title: string
  description: string
  shared: 'me' | 'everyone'
}): Promise<void> {
  const made = await post<SavedDashboard>('/dashboards', { ...given, content: { widgets: [] } })
  await router.push(`/dashboards/${made.id}`)
}
</script>

<template>
  <section class="sheet">
    <div class="row">
      <div class="grow">
        <h1>Dashboards</h1>
        <p class="meta">figures defined once, placed where they are looked at</p>
      </div>
      <Button
        as="router-link"
        severity="secondary"
        to="/dashboards/measures"
        label="Measures"
      /><Button v-if="session.mayEdit" @click="making = true" label="New dashboard" />
    </div>
    <table v-if="dashboards?.length" class="ledger">
      <thead>
        <tr>
          <th scope="col">Title</th>
          <th scope="col">What it is for</th>
          <th scope="col" class="num">Widgets</th>
          <th scope="col">Shared with</th>
          <th scope="col">Kept by</th>
          <th scope="col" class="num">Changed</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in dashboards" :key="one.id">
          <td>
            <RouterLink :to="`/dashboards/${one.id}`">{{ one.title }}</RouterLink>
          </td>
          <td class="quiet">{{ one.description }}</td>
          <td class="num">{{ counted(one.content.widgets.length, 'widget') }}</td>
          <td class="quiet">{{ one.shared === 'everyone' ? 'everyone' : 'only me' }}</td>
          <td class="quiet">{{ one.owner.title }}</td>
          <td class="quiet num">{{ agoWords(one.changedAt, session.now) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="dashboards" class="blank">
      Here the dashboards would stand that you keep or that others share. Define a
      <RouterLink to="/dashboards/measures">measure</RouterLink> over a query, then place it on one.
    </p>
    <KeepAs
      v-if="making"
      what="dashboard"
      title=""
      description=""
      shared="me"
      :keep="make"
      @close="making = false"
    />
  </section>
</template>
