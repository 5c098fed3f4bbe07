<script setup lang="ts">
import { computed, ref } from 'vue'
import { inOrder } from '@bluestem/core/definitions'
import { type Stale, type TemplateContent, templateTypes } from '@bluestem/core/templates'
import { call, messageOf, messagesOf, post } from '../api/http.ts'
import type { Template } from './types.ts'
import Sheet from '../parts/Sheet.vue'
import TemplateNode from './TemplateNode.vue'
import { nextKey, withoutChild } from './template.ts'
import { useDefinitions } from './definitions.store.ts'
import { useLiving } from './living.store.ts'

/** A template made or changed: one item, what stands below it, and links among them. */
const { template, from } = defineProps<{ template?: Template; from?: TemplateContent }>()
const emit = defineEmits<{ close: []; kept: [string] }>()
const definitions = useDefinitions()
const living = useLiving()
const owners = computed(() => [
  ...definitions.rulebooks
    .filter((one) => !one.retired && definitions.mayChange(one.id))
    .map((one) => ({ key: `rulebook:${one.id}`, title: `rulebook ${one.title}` })),
  ...living.keptProjects.map((one) => ({
    key: `project:${one.id}`,
    title: `project ${one.title}`,
  })),
])
const owner = ref(
  template
    ? template.project
      ? `project:${template.project}`
      : `rulebook:${template.rulebook}`
    : (owners.value[0]?.key ?? ''),
)
const rulebook = computed(() => {
  const [kind, id = ''] = owner.value.split(':')
  return kind === 'rulebook' ? id : (definitions.published.projects[id] ?? '')
})
const title = ref(template?.title ?? '')
const description = ref(template?.description ?? '')
const content = ref<TemplateContent>(
  template?.content ??
    from ?? {
      item: {
        title: '',
        type: templateTypes(definitions.published, rulebook.value)[0] ?? '',
        values: {},
        fields: {},
      },
      children: [],
      links: [],
    },
)
const ref_ = ref('')
const withChildren = ref(true)
const told = ref<readonly string[]>([])
const busy = ref(false)
const kinds = computed(() => inOrder(definitions.published.linkKinds).filter((one) => !one.retired))
const stands = computed(() => [
  { key: 'item', title: content.value.item.title || 'the item itself' },
  ...content.value.children.map((child) => ({ key: child.key, title: child.title || child.key })),
])

const addChild = (): void => {
  content.value = {
    ...content.value,
    children: [
      ...content.value.children,
      {
        key: nextKey(content.value.children),
        title: '',
        type:
          templateTypes(definitions.published, rulebook.value).find(
            (type) =>
              (definitions.published.types[type]?.tier ?? 0) <
              (definitions.published.types[content.value.item.type]?.tier ?? 0),
          ) ?? content.value.item.type,
        values: {},
        fields: {},
      },
    ],
  }
}
function setChild(index: number, node: TemplateContent['item'], under?: string): void {
  const { key, under: before } = content.value.children[index]!
  const above = under ?? before
  content.value = {
    ...content.value,
    children: content.value.children.map((child, at) =>
      at === index
        ? { ...node, key, ...(above && above !== 'item' ? { under: above } : {}) }
        : child,
    ),
  }
}
const addLink = (): void => {
  content.value = {
    ...content.value,
    links: [
      ...content.value.links,
      { kind: kinds.value[0]!.id, from: content.value.children[0]!.key, to: 'item' },
    ],
  }
}
const setLink = (index: number, part: 'kind' | 'from' | 'to', value: string): void => {
  content.value = {
    ...content.value,
    links: content.value.links.map((link, at) =>
      at === index ? { ...link, [part]: value } : link,
    ),
  }
}

/** what of the item does not fit its rulebook and was left out of the template */
const leftOut = ref<readonly string[]>([])

async function fetchFrom(): Promise<void> {
  told.value = []
  try {
    const taken = await post<{ content: TemplateContent; left: readonly Stale[] }>(
      '/templates/from',
      { ref: ref_.value.trim().toUpperCase(), children: withChildren.value },
    )
    content.value = taken.content
    leftOut.value = taken.left.map((part) => part.message)
    title.value ||= content.value.item.title
  } catch (error) {
    told.value = [messageOf(error)]
  }
}
async function keep(): Promise<void> {
  busy.value = true
  told.value = []
  const [kind, id] = owner.value.split(':')
  const body = { title: title.value, description: description.value, content: content.value }
  try {
    const made = template
      ? (
          await call<Template>('PATCH', `/templates/${template.id}`, body, {
            'If-Match': `"${template.version}"`,
          })
        ).body
      : await post<Template>('/templates', { ...body, [kind!]: id })
    await living.load()
    emit('kept', made.id)
    emit('close')
  } catch (error) {
    told.value = messagesOf(error)
  }
  busy.value = false
}
</script>

<template>
  <Sheet
    :title="template ? `Change ${template.title}` : 'New template'"
    wide
    @close="emit('close')"
  >
    <form @submit.prevent="keep">
      <div class="row">
        <label class="field grow"
          ><span>Title of the template</span
          ><input v-model="title" type="text" required maxlength="120" autofocus
        /></label>
        <label v-if="!template" class="field"
          ><span>Kept by</span
          ><select v-model="owner">
            <option v-for="one in owners" :key="one.key" :value="one.key">{{ one.title }}</option>
          </select></label
        >
      </div>
      <label class="field"
        ><span>When to use it</span><textarea v-model="description" rows="2" maxlength="2000" />
      </label>
      <div v-if="!template && !from" class="row from">
        <span class="quiet">Begin from an item:</span
        ><input
          v-model="ref_"
          type="text"
          aria-label="Ref of the item"
          placeholder="YARD/128"
        /><label><input v-model="withChildren" type="checkbox" /> with what stands below it</label
        ><button class="act" type="button" :disabled="!ref_.trim()" @click="fetchFrom">
          Take it over
        </button>
      </div>
      <h3>The item</h3>
      <TemplateNode v-model="content.item" :rulebook="rulebook" name="the item" />
      <h3>
        Below it <span class="quiet">{{ content.children.length || '' }}</span>
      </h3>
      <details
        v-for="(child, index) in content.children"
        :key="child.key"
        class="child"
        :open="child.title === ''"
      >
        <summary>
          {{ child.title || 'a new child' }}
          <span class="quiet">{{ definitions.published.types[child.type]?.title }}</span>
        </summary>
        <TemplateNode
          :model-value="child"
          :rulebook="rulebook"
          :name="child.title || child.key"
          @update:model-value="setChild(index, $event)"
        />
        <div class="row">
          <label class="quiet"
            >below
            <select
              class="inline"
              :value="child.under ?? 'item'"
              @change="setChild(index, child, ($event.target as HTMLSelectElement).value)"
            >
              <option v-for="one in stands.slice(0, index + 1)" :key="one.key" :value="one.key">
                {{ one.title }}
              </option>
            </select></label
          ><span class="grow" /><button
            class="plain"
            type="button"
            @click="content = withoutChild(content, child.key)"
          >
            take it out
          </button>
        </div>
      </details>
      <button class="plain" type="button" @click="addChild">another item below it</button>
      <template v-if="content.children.length && kinds.length"
        ><h3>Links among them</h3>
        <div v-for="(link, index) in content.links" :key="index" class="row link">
          <select
            :value="link.from"
            :aria-label="`Link ${index + 1} from`"
            @change="setLink(index, 'from', ($event.target as HTMLSelectElement).value)"
          >
            <option v-for="one in stands" :key="one.key" :value="one.key">
              {{ one.title }}
            </option></select
          ><select
            :value="link.kind"
            :aria-label="`Kind of link ${index + 1}`"
            @change="setLink(index, 'kind', ($event.target as HTMLSelectElement).value)"
          >
            <option v-for="one in kinds" :key="one.id" :value="one.id">
              {{ one.title }}
            </option></select
          ><select
            :value="link.to"
            :aria-label="`Link ${index + 1} to`"
            @change="setLink(index, 'to', ($event.target as HTMLSelectElement).value)"
          >
            <option v-for="one in stands" :key="one.key" :value="one.key">
              {{ one.title }}
            </option></select
          ><button
            class="plain"
            type="button"
            :aria-label="`Take link ${index + 1} out`"
            @click="content = { ...content, links: content.links.filter((_, at) => at !== index) }"
          >
            ×
          </button>
        </div>
        <button class="plain" type="button" @click="addLink">another link</button></template
      >
      <p v-if="leftOut.length" class="quiet" role="status">
        Left out, because it does not fit: {{ leftOut.join(' ') }}
      </p>
      <p v-for="line in told" :key="line" class="told" role="alert">{{ line }}</p>
      <div class="acts foot">
        <button class="act main" type="submit" :disabled="busy || !owner">Keep</button
        ><button class="act" type="button" @click="emit('close')">Not now</button>
      </div>
    </form>
  </Sheet>
</template>

<style scoped>
h3 {
  margin: 14px 0 6px;
  font: 600 13px var(--sans);
}
.from {
  margin-bottom: 8px;
}
.from input[type='text'] {
  width: 130px;
}
.child {
  border: 1px solid var(--hair);
  padding: 4px 10px;
  margin-bottom: 4px;
}
.child summary {
  cursor: pointer;
  min-height: 24px;
}
.link select {
  width: auto;
  max-width: 210px;
}
.foot {
  margin-top: 16px;
}
</style>
