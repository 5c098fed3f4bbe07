/** The projects that what is planned begins with: the one that is looked at, or the only one there is. */
export function beginWith(
  projects: readonly { readonly id: string }[],
  project: string,
): readonly string[] {
  const found = projects.filter(({ id }) => id === project || projects.length === 1)
  return found.map(({ id }) => id)
}
