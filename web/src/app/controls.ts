import PrimeVue, { type PrimeVueConfiguration } from 'primevue/config'
import type { App } from 'vue'
import { preset } from '../theme/preset/preset.ts'

/** The words that controls say by themselves. */
const words = {
  firstDayOfWeek: 1,
  dateFormat: 'd M yy',
  emptyMessage: 'Nothing to choose from',
  emptyFilterMessage: 'Nothing is called that',
  emptySearchMessage: 'Nothing is called that',
  emptySelectionMessage: 'nothing chosen',
  selectionMessage: '{0} chosen',
  searchMessage: '{0} found',
  chooseDate: 'Choose a day',
  today: 'Today',
  clear: 'Nothing',
  apply: 'Keep',
  cancel: 'Not now',
  accept: 'Yes',
  reject: 'No',
}

interface Day {
  readonly context: { readonly selected: boolean; readonly disabled: boolean }
}

/**
 * What the library gets wrong, put right by what it lets one pass to the parts of its controls.
 * To readers: the stops at both ends of a list take the focus and are hidden; the boxes within options are no controls of their own; a chosen day is a cell.
 * By keyboard: its calendar looks for the chosen and the closed days by marks that it does not set.
 */
const stops = {
  hiddenFirstFocusableEl: { 'aria-hidden': null, role: null },
  hiddenLastFocusableEl: { 'aria-hidden': null, role: null },
}
const readable = {
  // It says that it controls the panel; what it controls is the list in it.
  autocomplete: {
    pcInputText: ({
      instance,
      state,
    }: {
      instance: { $id: string }
      state: { overlayVisible: boolean }
    }) => ({
      root: { 'aria-controls': state.overlayVisible ? `${instance.$id}_list` : undefined },
    }),
  },
  select: stops,
  // What a tab shows stands in the page, not in a panel of the library.
  tab: { root: { 'aria-controls': null } },
  multiselect: { ...stops, pcOptionCheckbox: { input: { hidden: true } } },
  datepicker: {
    dayCell: ({ context }: Day) => ({ 'aria-selected': context.selected }),
    day: ({ context }: Day) => ({
      'aria-selected': null,
      'data-p-selected': context.selected,
      'data-p-disabled': context.disabled,
    }),
  },
}

/** PrimeVue as Bluestem uses it: our tokens, our words, our heights, and styles that carry the nonce of the page. */
export const controls = {
  install(app: App): void {
    app.use(PrimeVue, {
      theme: {
        preset,
        options: {
          darkModeSelector: '[data-theme=dark]',
          cssLayer: { name: 'controls', order: 'base, controls, ours' },
        },
      },
      locale: words,
      pt: readable,
      zIndex: { modal: 100, overlay: 200, menu: 200, tooltip: 300 },
      csp: { nonce: document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce },
    } as PrimeVueConfiguration)
  },
}
