/** Gives the focus to what has just come onto the page: the browser’s own `autofocus` does that only as a page begins. */
export const vFocus = {
  mounted: (element: HTMLElement): void => {
    element.focus()
  },
}
