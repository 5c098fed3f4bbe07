import { ref, watch, type Ref } from 'vue'
import { useRoute } from 'vue-router'

/** The entry that is selected in a chapter; an address may name one, so that whoever finds it comes to it. */
export function useSelected(): Ref<string | undefined> {
  const route = useRoute()
  const selected = ref<string>()
  watch(
    () => route.query['id'],
    (id) => {
      if (typeof id === 'string') selected.value = id
    },
    { immediate: true },
  )
  return selected
}
