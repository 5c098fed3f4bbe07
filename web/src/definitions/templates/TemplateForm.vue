<script setup lang="ts">
import { elementAt, firstIn } from '@bluestem/core/known'
import Panel from 'primevue/panel'
import { X } from '@lucide/vue'
import InputText from 'primevue/inputtext'
import Choice from '../../parts/Choice.vue'
import Textarea from 'primevue/textarea'
import Checkbox from 'primevue/checkbox'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { inOrder } from '@bluestem/core/definitions'
import { type TemplateContent, templateTypes, type TemplateAnswer } from '@bluestem/core/templates'
import { messageOf, messagesOf, call } from '../../api/http.ts'
import Sheet from '../../parts/Sheet.vue'
import TemplateNode from './TemplateNode.vue'
import { nextKey, withoutChild } from './template.ts'
import { useDefinitions } from '../store/definitions.store.ts'
import { useLiving } from '../store/living.store.ts'

/** A template made or changed: one item, what stands below it, and links among them. */
const { template, from } = defineProps<{ template?: TemplateAnswer; from?: TemplateContent }>()
const emit = defineEmits<{ close: []; kept: [string] }>()
const definitions = useDefinitions()
const living = useLiving()
const owners = computed(() => [
  ...definitions.rulebooks
    .filter((rulebook) => !rulebook.retired && definitions.mayChange(rulebook.id))
    .map((rulebook) => ({ key: `rulebook:${rulebook.id}`, title: `rulebook ${rulebook.title}` })),
  ...living.keptProjects.map((project) => ({
    key: `project:${project.id}`,
    title: `project ${project.title}`,
  })),
])
const ownerOf = ({ project, rulebook }: TemplateAnswer): string =>
  project ? `project:${project}` : `rulebook:${rulebook}`
const owner = ref(template ? ownerOf(template) : (owners.value[0]?.key ?? ''))
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
const kinds = computed(() =>
  inOrder(definitions.published.linkKinds).filter((kind) => !kind.retired),
)
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
  const { key, under: before } = elementAt(content.value.children, index)
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
      { kind: firstIn(kinds.value).id, from: firstIn(content.value.children).key, to: 'item' },
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
    const taken = await call('POST /templates/from', {
      body: { ref: ref_.value.trim().toUpperCase(), children: withChildren.value },
    })
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
  const [kind = '', id] = owner.value.split(':')
  const body = { title: title.value, description: description.value, content: content.value }
  try {
    const made = template
      ? await call('PATCH /templates/{id}', {
          params: { id: template.id },
          body,
          match: template.version,
        })
      : await call('POST /templates', { body: { ...body, [kind]: id } })
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
          ><InputText v-model="title" required maxlength="120" autofocus fluid
        /></label>
        <label v-if="!template" class="field"
          ><span>Kept by</span
          ><Choice
            v-model="owner"
            label="Kept by"
            :options="owners.map((row) => ({ id: row.key, title: row.title }))"
        /></label>
      </div>
      <label class="field"
        ><span>When to use it</span
        ><Textarea v-model="description" rows="2" maxlength="2000" fluid />
      </label>
      <div v-if="!template && !from" class="row from">
        <span class="quiet">Begin from an item:</span
        ><InputText
          v-model="ref_"
          aria-label="Ref of the item"
          placeholder="SITE/128"
          fluid
        /><label><Checkbox v-model="withChildren" binary /> with what stands below it</label
        ><Button
          severity="secondary"
          :disabled="!ref_.trim()"
          @click="fetchFrom"
          label="Take it over"
        />
      </div>
      <h3>The item</h3>
      <TemplateNode v-model="content.item" :rulebook="rulebook" name="the item" />
      <h3>
        Below it <span class="quiet">{{ content.children.length || '' }}</span>
      </h3>
      <Panel
        v-for="(child, index) in content.children"
        :key="child.key"
        class="child"
        toggleable
        :collapsed="child.title !== ''"
        :header="child.title || 'a new child'"
        ><template #header
          ><span
            >{{ child.title || 'a new child' }}
            <span class="quiet">{{ definitions.published.types[child.type]?.title }}</span></span
          ></template
        >
        <TemplateNode
          :model-value="child"
          :rulebook="rulebook"
          :name="child.title || child.key"
          @update:model-value="setChild(index, $event)"
        />
        <div class="row">
          <label class="quiet"
            >below
            <Choice
              :model-value="child.under ?? 'item'"
              label="Below"
              :options="
                stands.slice(0, index + 1).map((row) => ({ id: row.key, title: row.title }))
              "
              inline
              @update:model-value="setChild(index, child, $event)" /></label
          ><span class="grow" /><Button
            variant="link"
            @click="content = withoutChild(content, child.key)"
            label="take it out"
          />
        </div>
      </Panel>
      <Button variant="link" @click="addChild" label="another item below it" />
      <template v-if="content.children.length && kinds.length"
        ><h3>Links among them</h3>
        <div v-for="(link, index) in content.links" :key="index" class="row link">
          <Choice
            :model-value="link.from"
            :label="`Link ${index + 1} from`"
            :options="stands.map((row) => ({ id: row.key, title: row.title }))"
            inline
            @update:model-value="setLink(index, 'from', $event)"
          /><Choice
            :model-value="link.kind"
            :label="`Kind of link ${index + 1}`"
            :options="kinds.map((row) => ({ id: row.id, title: row.title }))"
            inline
            @update:model-value="setLink(index, 'kind', $event)"
          /><Choice
            :model-value="link.to"
            :label="`Link ${index + 1} to`"
            :options="stands.map((row) => ({ id: row.key, title: row.title }))"
            inline
            @update:model-value="setLink(index, 'to', $event)"
          /><Button
            variant="text"
            severity="secondary"
            size="small"
            :aria-label="`Take link ${index + 1} out`"
            @click="content = { ...content, links: content.links.filter((_, at) => at !== index) }"
          >
            <X class="icon" />
          </Button>
        </div>
        <Button variant="link" @click="addLink" label="another link"
      /></template>
      <p v-if="leftOut.length" class="quiet" role="status">
        Left out, because it does not fit: {{ leftOut.join(' ') }}
      </p>
      <p v-for="line in told" :key="line" class="told" role="alert">{{ line }}</p>
      <div class="acts foot">
        <Button type="submit" :disabled="busy || !owner" label="Keep" /><Button
          severity="secondary"
          @click="emit('close')"
          label="Not now"
        />
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
.foot {
  margin-top: 16px;
}
</style>
