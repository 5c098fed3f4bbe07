import type { BulkChange, BulkItems, BulkPreviewAnswer } from '@bluestem/core/bulk'
import { onBeforeUnmount, type Ref, ref, watch } from 'vue'
import { call, messageOf } from '../api/http.ts'

/** How long a change rests before its preview is asked for, in milliseconds. */
const rest = 250

/** What a change of many items would do, asked for as it is put together. */
export interface Preview {
  readonly preview: Ref<BulkPreviewAnswer | undefined>
  readonly wrong: Ref<string>
  readonly isLooking: Ref<boolean>
}

/** @param change what is to become of the items; undefined while nothing is */
export function usePreview(items: () => BulkItems, change: () => BulkChange | undefined): Preview {
  const preview = ref<BulkPreviewAnswer>()
  const wrong = ref('')
  const isLooking = ref(false)
  let timer = 0
  let round = 0

  async function look(asked: BulkChange): Promise<void> {
    const mine = (round += 1)
    isLooking.value = true
    try {
      const body = { items: items(), change: asked }
      const found = await call('POST /items/bulk/preview', { body })
      if (mine !== round) return
      preview.value = found
      wrong.value = ''
    } catch (error) {
      if (mine === round) wrong.value = messageOf(error)
    } finally {
      if (mine === round) isLooking.value = false
    }
  }
  watch(
    () => JSON.stringify(change() ?? null),
    () => {
      window.clearTimeout(timer)
      preview.value = undefined
      round += 1
      const asked = change()
      if (asked) timer = window.setTimeout(() => void look(asked), rest)
    },
  )
  onBeforeUnmount(() => window.clearTimeout(timer))
  return { preview, wrong, isLooking }
}
