import { Check } from '@lucide/vue'
import MultiSelect from 'primevue/multiselect'
import { h, type FunctionalComponent } from 'vue'

/** The box before an option; a press of the option is what changes it. */
const Tick: FunctionalComponent<{ defaultValue?: boolean }> = ({ defaultValue }) =>
  h('span', { class: ['option-box', { on: defaultValue }], 'aria-hidden': true }, [
    defaultValue ? h(Check, { size: 12, strokeWidth: 3 }) : undefined,
  ])
Tick.props = { defaultValue: Boolean }
Tick.inheritAttrs = false

/** The library’s choice of several. Its options show a box that is only drawn: a field in each made lists of thousands stutter. */
const ManySelect: unknown = { extends: MultiSelect, components: { Checkbox: Tick } }
// It takes and tells what the library’s takes and tells.
export default ManySelect as typeof MultiSelect
