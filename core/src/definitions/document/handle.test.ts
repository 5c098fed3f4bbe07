import { expect, it } from 'vitest'
import { handleFor } from './handle.ts'

it.each([
  ['Cost of parts', 'cost_of_parts'],
  ['  2nd berth (old) ', 'nd_berth_old'],
  ['__Über alles__', 'u_ber_alles'],
  ['2027', ''],
  ['船', ''],
  ['a'.repeat(50), 'a'.repeat(40)],
])('the handle for “%s” is %s', (title, handle) => {
  expect(handleFor(title)).toBe(handle)
})
