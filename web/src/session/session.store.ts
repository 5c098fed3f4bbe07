import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { call } from '../api/http.ts'
import { useVocabulary } from '../api/vocabulary.store.ts'
import { setZone } from './zone.ts'

interface Session {
  readonly person: {
    readonly id: string
    readonly name: string
    readonly email: string
    readonly role: 'administrator' | 'member' | 'viewer'
  }
  readonly workspace: {
    readonly title: string
    readonly zone: string
    readonly demo: boolean
    readonly settingUp: boolean
  }
  readonly now: string
}

/** Who is signed in, and what they may do. */
export const useSession = defineStore('session', () => {
  const session = ref<Session>()
  const mayEdit = computed(
    () => session.value !== undefined && session.value.person.role !== 'viewer',
  )
  const mayDefine = computed(() => session.value?.person.role === 'administrator')
  const isSettingUp = computed(
    () => mayDefine.value && (session.value?.workspace.settingUp ?? false),
  )
  const now = computed(() => (session.value ? new Date(session.value.now) : new Date()))
  async function load(): Promise<boolean> {
    try {
      session.value = await call('GET /session')
      setZone(session.value.workspace.zone)
      await useVocabulary().load()
      return true
    } catch {
      session.value = undefined
      return false
    }
  }
  async function signIn(email: string, password: string): Promise<void> {
    await call('POST /session', { body: { email, password } })
    await load()
  }
  async function signOut(): Promise<void> {
    await call('DELETE /session')
    session.value = undefined
  }
  return { session, mayEdit, mayDefine, isSettingUp, now, load, signIn, signOut }
})
