const widths: Readonly<Record<string, string>> = {
  ref: '86px',
  type: '44px',
  title: 'minmax(196px, 6fr)',
  status: 'minmax(142px, 1fr)',
  priority: 'minmax(148px, 1fr)',
  due: '92px',
  changed: '100px',
  created: '100px',
  done: '100px',
  assignee: 'minmax(106px, 1fr)',
  labels: 'minmax(130px, 1.2fr)',
  rung: '60px',
  estimate: '76px',
  on_hold: '70px',
}

/** How wide a column of a list of items is, as a track of a grid. @param isLeft whether it shows what is left of a time limit */
export const widthOf = (column: string, isLeft: boolean): string =>
  widths[column] ?? (isLeft ? '128px' : 'minmax(90px, 1fr)')
