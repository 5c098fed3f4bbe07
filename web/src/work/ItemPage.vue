<script setup lang="ts">
import { asChoice } from '@bluestem/core/schema'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call, partsOf } from '../api/http.ts'
import { useSession } from '../session/session.store.ts'
import Followers from '../notices/Followers.vue'
import Margin from '../parts/Margin.vue'
import StatusMark from '../parts/StatusMark.vue'
import { useNotes } from '../parts/notes.store.ts'
import { agoWords } from '../parts/words.ts'
import ApplyTemplate from './ApplyTemplate.vue'
import ChangeMany from './ChangeMany.vue'
import ClashSheet from './ClashSheet.vue'
import { copyOf } from './copyOf.ts'
import HoldLine from './HoldLine.vue'
import ItemBelow from './ItemBelow.vue'
import ItemClocks from './ItemClocks.vue'
import ItemDescription from './ItemDescription.vue'
import ItemFields from './ItemFields.vue'
import ItemHistory from './ItemHistory.vue'
import ItemLinks from './ItemLinks.vue'
import ItemPast from './ItemPast.vue'
import ItemComments from './ItemComments.vue'
import ItemTitle from './ItemTitle.vue'
import MakeItem from './MakeItem.vue'
import MoveTo from './MoveTo.vue'
import ProposeChange from './ProposeChange.vue'
import { useItem } from './useItem.ts'
import { useItemChange } from './useItemChange.ts'

const route = useRoute()
const router = useRouter()
const session = useSession()
const notes = useNotes()
const code = String(route.params['code'])
const itemRef = `${code}/${String(route.params['number'])}`
const { item, shown, offers, versions, comments, links, missing, isNew, load } = useItem(
  itemRef,
  async (moved) => await router.replace(`/work/${moved}`),
)
const { refusal, clash, change, takeMine } = useItemChange(shown, load)
const type = computed(() => offers.value?.types.find((entry) => entry.id === item.value?.type.id))
/** what is done with the item in a sheet */
const sheet = ref<'apply' | 'propose' | 'copy' | 'take'>()
const closeSheet = (): void => (sheet.value = undefined)

const moveTo = async (status: string, comment?: string): Promise<void> =>
  await change({ status, ...(comment ? { comment } : {}) }, { status: shown().status.id })

/** Sends the item to the bin, from where it comes back at once where that was a slip. */
async function remove(): Promise<void> {
  const wentWell = await notes.attempt(async () => {
    await call('DELETE /items/{code}/{number}', {
      params: partsOf(itemRef),
      match: shown().etag,
    })
  })
  if (!wentWell) return
  notes.show('well', `${itemRef} is in the bin.`, { title: 'Undo', run: () => void bringBack() })
  await router.push(`/work/${code}`)
}

async function bringBack(): Promise<void> {
  await notes.attempt(async () => {
    await call('POST /bin/bring-back', { body: { refs: [itemRef] } })
    await router.push(`/work/${itemRef}`)
  })
}
</script>

<template>
  <section class="sheet">
    <template v-if="item">
      <p class="path">
        <RouterLink :to="`/work/${code}`">{{
          asChoice(item['project'])?.title
        }}</RouterLink><template v-if="item['parent']">
          /
          <RouterLink :to="`/work/${asChoice(item['parent'])?.id}`">{{
            asChoice(item['parent'])?.id
          }}</RouterLink></template
        >
        / <b>{{ item.ref }}</b>
      </p>
      <ItemTitle :item="item" @change="change" />
      <MoveTo
        v-if="session.mayEdit"
        :item="item"
        :refusal="refusal"
        @move="moveTo"
        @refused="refusal = $event"
        ><span
          ><StatusMark :status="item.status" />{{ ' '
          }}<span class="quiet">since {{ agoWords(item.statusSince, session.now) }}</span></span
        ></MoveTo
      >
      <p v-else class="stands">
        <StatusMark :status="item.status" />{{ ' '
        }}<span class="quiet">since {{ agoWords(item.statusSince, session.now) }}</span>
      </p>
      <ItemClocks :item="item" />
      <HoldLine :item="item" @change="change" />
      <ItemFields
        v-if="type && offers"
        :item="item"
        :type="type"
        :priorities="offers.priorities"
        @change="change"
      />
      <div v-if="session.mayEdit" class="row beside">
        <Button
          variant="link"
          class="small"
          v-if="offers?.templates.length"
          @click="sheet = 'apply'"
          label="apply a template …"
        /><Button
          variant="link"
          class="small"
          @click="sheet = 'propose'"
          label="propose a field or a word …"
        /><Button
          v-if="type"
          variant="link"
          class="small"
          label="copy …"
          @click="sheet = 'copy'"
        /><Button
          variant="link"
          class="small"
          label="take to another project …"
          @click="sheet = 'take'"
        /><Button variant="link" class="small" label="delete" @click="remove" />
      </div>
      <ApplyTemplate
        v-if="sheet === 'apply' && offers"
        :item="item"
        :templates="offers.templates"
        @close="closeSheet"
        @applied="load"
      />
      <MakeItem
        v-if="sheet === 'copy' && type && offers"
        :offers="offers"
        :given="copyOf(item, type)"
        @close="closeSheet"
        @made="router.push(`/work/${$event}`)"
      />
      <ClashSheet
        v-if="clash"
        :clashes="clash.clashes"
        :versions="versions"
        @mine="takeMine"
        @theirs="clash = undefined"
      />
      <ChangeMany
        v-if="sheet === 'take'"
        :items="{ refs: [itemRef] }"
        :total="1"
        moves
        @close="closeSheet"
        @done="load"
      />
      <ProposeChange v-if="sheet === 'propose'" :item="item" @close="closeSheet" />
      <ItemDescription :item="item" @change="change" />
      <div class="below">
        <div>
          <ItemBelow :item="item" :types="offers?.types ?? []" :project="code" @made="load" />
          <ItemLinks
            :item-ref="itemRef"
            :links="links"
            :kinds="offers?.links ?? []"
            @changed="links = $event"
          />
        </div>
        <ItemComments :item-ref="itemRef" :comments="comments" @changed="load" />
      </div>
    </template>
    <template v-else-if="missing"
      ><h1>{{ itemRef }}</h1>
      <p class="blank">{{ missing }} <RouterLink to="/work">All projects</RouterLink></p></template
    >
  </section>
  <Margin>
    <Followers v-if="item" :key="comments.length" :item-ref="itemRef" />
    <h2>What happened</h2>
    <ItemPast
      v-if="item"
      :item="item"
      :versions="versions"
      :may-restore="session.mayEdit"
      @restore="change"
    />
    <ItemHistory v-if="item" :item="item" :versions="versions" :is-new="isNew" @change="change" />
  </Margin>
</template>

<style scoped>
.beside {
  gap: 16px;
  margin-top: 10px;
}
.path {
  font-size: 13px;
  color: var(--quiet);
}
.path b {
  color: var(--ink);
}
.small {
  font-size: 12.5px;
  font-family: var(--sans);
}
.stands {
  padding-bottom: 12px;
  border-bottom: 1px solid var(--hair);
  margin-bottom: 12px;
}
.below {
  display: grid;
  grid-template-columns: minmax(0, 11fr) minmax(0, 8fr);
  gap: 28px;
}
</style>
