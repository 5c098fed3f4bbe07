<script setup lang="ts">
import { elementAt, firstIn } from '@bluestem/core/known'
import type { ProjectAnswer } from '@bluestem/core/projects'
import DataTable from 'primevue/datatable'
import Column from 'primevue/column'
import Button from 'primevue/button'
import { onMounted, ref } from 'vue'
import { call } from '../api/http.ts'
import { useSession } from '../session/session.store.ts'
import { numberWords } from '../parts/words.ts'

const session = useSession()
const projects = ref<readonly ProjectAnswer[]>()
onMounted(async () => {
  projects.value = (await call('GET /projects')).projects
})
const open = (project: ProjectAnswer): number =>
  firstIn(project.phases) + elementAt(project.phases, 1)
</script>

<template>
  <section class="sheet">
    <div class="row">
      <h1 class="grow">Work</h1>
      <Button
        v-if="session.mayEdit"
        as="router-link"
        severity="secondary"
        to="/import"
        label="Bring in a file"
      />
      <Button
        v-if="session.mayEdit"
        as="router-link"
        severity="secondary"
        to="/changes"
        label="Changes of many"
      />
      <Button as="router-link" severity="secondary" to="/iterations" label="Iterations" />
      <Button as="router-link" severity="secondary" to="/releases" label="Releases" />
      <Button as="router-link" severity="secondary" to="/bin" label="Bin" />
      <Button
        as="router-link"
        severity="secondary"
        v-if="session.mayDefine"
        to="/definitions/projects?make"
        label="New project"
      />
    </div>
    <p class="meta">what is done and to be done, by project</p>
    <DataTable
      v-if="projects?.length"
      :value="[...projects]"
      data-key="id"
      table-class="ledger"
      :table-props="{ 'aria-label': 'Projects' }"
      ><Column header="Code" sortable sort-field="code" class="code"
        ><template #body="{ data: project }"
          ><span class="quiet">{{ project.code }}</span></template
        ></Column
      >
      <Column header="Project" sortable sort-field="title" class="nowrap"
        ><template #body="{ data: project }"
          ><RouterLink :to="`/work/${project.code}`">{{ project.title }}</RouterLink></template
        ></Column
      >
      <Column header="What it is for"
        ><template #body="{ data: project }"
          ><span class="quiet"
            >{{ project.description }}<span v-if="!project.open"> Members only.</span></span
          ></template
        ></Column
      >
      <Column header="Rulebook" sortable sort-field="rulebook" class="nowrap"
        ><template #body="{ data: project }"
          ><span class="quiet">{{ project.rulebook }}</span></template
        ></Column
      >
      <Column header="Idle" sortable sort-field="phases.0" class="num"
        ><template #body="{ data: project }">{{
          numberWords(project.phases[0] ?? 0)
        }}</template></Column
      >
      <Column header="Active" sortable sort-field="phases.1" class="num"
        ><template #body="{ data: project }">{{
          numberWords(project.phases[1] ?? 0)
        }}</template></Column
      >
      <Column header="Done" sortable sort-field="phases.2" class="num"
        ><template #body="{ data: project }">{{
          numberWords(project.phases[2] ?? 0)
        }}</template></Column
      >
      <Column header="Open" class="num"
        ><template #body="{ data: project }"
          ><b>{{ numberWords(open(project)) }}</b></template
        ></Column
      ></DataTable
    >
    <p v-else-if="projects" class="blank">
      Here the projects would stand whose items you may see. There are none yet.
    </p>
  </section>
</template>
