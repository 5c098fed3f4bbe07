<script setup lang="ts">
import type { NoticeAnswer } from '@bluestem/core/notices'
import Button from 'primevue/button'
import { onMounted } from 'vue'
import { whenChanged } from '../api/whenChanged.ts'
import { useSession } from '../session/session.store.ts'
import { useNotes } from '../parts/notes.store.ts'
import StatusMark from '../parts/StatusMark.vue'
import TypeMark from '../parts/TypeMark.vue'
import { counted, momentWords } from '../parts/words.ts'
import HistoryWords from '../parts/HistoryWords.vue'
import { useNotices } from './notices.store.ts'

/** What others changed of the items one follows or has, since one last looked at them. */
const notices = useNotices()
const session = useSession()
const notes = useNotes()
/** how many changes of an item are told before the others are counted */
const mostTold = 4
onMounted(() => notes.attempt(notices.load))
whenChanged(() => void notes.attempt(notices.load), 4000)

const look = async (entry?: NoticeAnswer): Promise<void> =>
  void (await notes.attempt(async () => await notices.look(entry && [entry.ref])))
</script>

<template>
  <section class="sheet">
    <div class="row">
      <div class="grow">
        <h1>Notices</h1>
        <p class="meta">
          what others changed since you last looked, of the items you follow and those that are
          yours
        </p>
      </div>
      <Button v-if="notices.news?.total" severity="secondary" label="All seen" @click="look()" />
    </div>
    <ol v-if="notices.news?.notices.length" aria-label="What is new">
      <li v-for="notice in notices.news.notices" :key="notice.ref">
        <div class="row head">
          <TypeMark :mark="String(notice.type.mark)" :title="notice.type.title" />
          <RouterLink :to="`/work/${notice.ref}`" class="quiet nowrap">{{ notice.ref }}</RouterLink>
          <RouterLink :to="`/work/${notice.ref}`" class="grow title cut">{{
            notice.title
          }}</RouterLink>
          <StatusMark :status="notice.status" />
          <Button
            variant="link"
            :aria-label="`${notice.ref} is seen`"
            label="seen"
            @click="look(notice)"
          />
        </div>
        <p v-for="change in notice.changes.slice(0, mostTold)" :key="change.from" class="change">
          <span class="quiet when">{{ momentWords(change.from, session.now) }}</span>
          <HistoryWords :version="change" />
        </p>
        <p v-if="notice.changes.length > mostTold" class="change quiet">
          <span class="when" />and {{ counted(notice.changes.length - mostTold, 'change') }} before
        </p>
      </li>
    </ol>
    <p v-else-if="notices.news" class="blank">
      Nothing is new. Items are followed by <em>follow</em> on their page, by saying something about
      them, or by being named with @; what others change of them stands here until you look.
    </p>
    <p v-if="notices.news && notices.news.total > notices.news.notices.length" class="quiet">
      {{ counted(notices.news.total - notices.news.notices.length, 'item') }} more with earlier
      changes.
    </p>
  </section>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
  max-width: 980px;
}
li {
  padding: 8px 0 10px;
  border-bottom: 1px solid var(--hair);
}
.head {
  gap: 10px;
}
.title {
  color: var(--ink);
  font-weight: 600;
}
.change {
  display: flex;
  gap: 10px;
  margin: 3px 0 0 36px;
  font-size: 13px;
}
.when {
  flex: none;
  width: 92px;
}
</style>
