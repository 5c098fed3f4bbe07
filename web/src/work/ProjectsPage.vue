<script setup lang="ts">
import Button from 'primevue/button'
import { onMounted, ref } from 'vue'
import { get } from '../api/http.ts'
import type { CountedProject } from '../api/types.ts'
import { useSession } from '../app/session.store.ts'
import { numberWords } from '../parts/words.ts'

const session = useSession()
const projects = ref<readonly CountedProject[]>()
onMounted(async () => {
  projects.value = (await get<{ projects: readonly CountedProject[] }>('/projects')).projects
})
const open = (project: CountedProject): number => project.phases[0]! + project.phases[1]!
</script>

<template>
  <section class="sheet">
    <div class="row">
      <h1 class="grow">Work</h1>
      <Button
        as="router-link"
        severity="secondary"
        v-if="session.mayDefine"
        to="/definitions/rulebooks?project=new"
        label="New project"
      />
    </div>
    <p class="meta">what is done and to be done, by project</p>
    <table v-if="projects?.length" class="ledger">
      <thead>
        <tr>
          <th scope="col">Code</th>
          <th scope="col">Project</th>
          <th scope="col">What it is for</th>
          <th scope="col">Rulebook</th>
          <th scope="col" class="num">Idle</th>
          <th scope="col" class="num">Active</th>
          <th scope="col" class="num">Done</th>
          <th scope="col" class="num">Open</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="project in projects" :key="project.id">
          <td class="code quiet">{{ project.code }}</td>
          <td>
            <RouterLink :to="`/work/${project.code}`">{{ project.title }}</RouterLink>
          </td>
          <td class="quiet">
            {{ project.description }}<span v-if="!project.open"> Members only.</span>
          </td>
          <td class="quiet">{{ project.rulebook }}</td>
          <td class="num">{{ numberWords(project.phases[0]!) }}</td>
          <td class="num">{{ numberWords(project.phases[1]!) }}</td>
          <td class="num">{{ numberWords(project.phases[2]!) }}</td>
          <td class="num">
            <b>{{ numberWords(open(project)) }}</b>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="projects" class="blank">
      Here the projects would stand whose items you may see. There are none yet.
    </p>
  </section>
</template>
