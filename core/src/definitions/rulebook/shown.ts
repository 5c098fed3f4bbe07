/** When a field is shown: only while another holds one of these values, choices by identity. */
export interface ShownWhen {
  readonly field: string
  readonly values: readonly (string | boolean)[]
}

/** Whether a field that may wait for another is shown, by the values that other holds; only then can it be required. */
export const isShown = (
  shownWhen: ShownWhen | undefined,
  held: (field: string) => readonly unknown[],
): boolean =>
  !shownWhen ||
  held(shownWhen.field).some((entry) => shownWhen.values.some((value) => value === entry))
