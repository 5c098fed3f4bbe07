<script setup lang="ts">
import { useSession } from '../session/session.store.ts'
import KeysSheet from './KeysSheet.vue'
import Masthead from './Masthead.vue'
import Notes from '../parts/Notes.vue'

const session = useSession()
</script>

<template>
  <a class="skip" href="#main">Skip to the page</a>
  <Masthead v-if="session.session" />
  <main id="main" class="page" tabindex="-1">
    <RouterView :key="$route.meta.isBook ? $route.meta.place : $route.path" />
    <div id="lists" />
  </main>
  <KeysSheet v-if="session.session" />
  <Notes />
</template>

<style>
#app {
  display: flex;
  flex-direction: column;
}
#main:focus {
  outline: none;
}
/* Where lists open: within the landmark of the page, and out of reach of what changes with the page. */
#lists {
  display: contents;
}
.skip {
  position: absolute;
  left: -999px;
  top: 4px;
  background: var(--sheet);
  padding: 4px 10px;
  z-index: 30;
}
.skip:focus {
  left: 8px;
}
</style>
