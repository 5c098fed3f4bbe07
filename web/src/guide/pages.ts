import changing from '../../../docs/guide/changing-what-others-share.md?raw'
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
  page('changing-what-others-share', changing),
]
