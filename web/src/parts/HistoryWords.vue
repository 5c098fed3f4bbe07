<script setup lang="ts">
import type { VersionAnswer } from '@bluestem/core/work'

/** One state in words: who, then what. */
const { version } = defineProps<{ version: Pick<VersionAnswer, 'by' | 'words'> }>()
</script>

<template>
  <span
    ><b>{{ version.by.title }}</b
    >{{ ' '
    }}<template v-for="(line, index) in version.words" :key="index"
      ><template v-if="index">; </template
      ><template v-for="(said, at) in line" :key="at"
        ><em v-if="said.value">{{ said.text }}</em
        ><template v-else>{{ said.text }}</template></template
      ></template
    ><template v-if="version.words.length === 0">changed it</template></span
  >
</template>
