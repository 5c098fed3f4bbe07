import changing from '../../../docs/guide/changing-what-others-share.md?raw'
import bringing from '../../../docs/guide/bringing-work-in.md?raw'
import many from '../../../docs/guide/changing-many-at-once.md?raw'
import planning from '../../../docs/guide/planning-spans.md?raw'
import settingUp from '../../../docs/guide/setting-up.md?raw'

export interface GuidePage {
  readonly key: string
  readonly title: string
  readonly text: string
}

const page = (key: string, text: string): GuidePage => ({
  key,
  title: /^# (.+)$/m.exec(text)?.[1] ?? key,
  text,
})

/** The chapters of the guide, in the order in which they are needed; the same files that stand in `docs/guide`. */
export const pages: readonly GuidePage[] = [
  page('setting-up', settingUp),
  page('bringing-work-in', bringing),
  page('changing-many-at-once', many),
  page('planning-spans', planning),
  page('changing-what-others-share', changing),
]
