<script setup lang="ts">
/** The frame of the pages by which one comes in. */
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
    <div class="words"><slot /></div>
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
.words :deep(h1) {
  font-size: 44px;
}
.words :deep(.meta) {
  font: 400 17px/1.4 var(--serif);
  margin: 8px 0 26px;
}
.words {
  border-left: 1px solid var(--rule);
  padding: 20px 0 20px 40px;
}
.words :deep(button) {
  margin-top: 6px;
  padding: 6px 20px;
}
</style>
