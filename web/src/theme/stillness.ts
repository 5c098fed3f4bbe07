import type { Directive } from 'vue'

/** Stands in for the library’s ripple: what is pressed does not move. */
const stillness: Directive = {}
export default stillness
