import { defineStore } from 'pinia'
import { api } from '~/client'
import type { PersonView, SessionView, SignUp } from '@contracts'

/** Who is here, and whether this server asks people to sign in. */
export const useSession = defineStore('session', {
  state: () => ({
    known: false,
    accounts: false,
    person: null as PersonView | null,
    guest: false,
    signUpBy: 'off' as SignUp,
    provider: null as string | null,
  }),
  actions: {
    async load() {
      const session = await api.get<SessionView>('/session')
      this.accounts = session.accounts
      this.person = session.person
      this.guest = session.guest
      this.signUpBy = session.signUp
      this.provider = session.provider
      this.known = true
    },
    async signIn(email: string, password: string) {
      this.person = await api.post<PersonView>('/session', { email, password })
    },
    /** Makes an account. @returns whether they are signed in; else a letter is on its way that shows whose address it is */
    async signUp(name: string, email: string, password: string): Promise<boolean> {
      const { letter } = await api.post<{ letter: boolean }>('/people', { name, email, password })
      if (!letter) await this.signIn(email, password)
      return !letter
    },
    async signOut() {
      await api.delete('/session')
      this.person = null
    },
  },
})
