import { defineStore } from 'pinia'
import { api } from '~/client'
import type { PersonView, SessionView } from '@contracts'

/** Who is here, and whether this server asks people to sign in. */
export const useSession = defineStore('session', {
  state: () => ({ known: false, accounts: false, person: null as PersonView | null, guest: false }),
  actions: {
    async load() {
      const session = await api.get<SessionView>('/session')
      this.accounts = session.accounts
      this.person = session.person
      this.guest = session.guest
      this.known = true
    },
    async signIn(email: string, password: string) {
      this.person = await api.post<PersonView>('/session', { email, password })
    },
    async signUp(name: string, email: string, password: string) {
      await api.post('/people', { name, email, password })
      await this.signIn(email, password)
    },
    async signOut() {
      await api.delete('/session')
      this.person = null
    },
  },
})
