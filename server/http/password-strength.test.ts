import { expect, it } from 'vitest'
import { checkPassword } from './password-strength'

const person = { name: 'Maren Harbourmaster', email: 'maren.holt@harbour.example' }

it('refuses passwords that are tried first, and takes words that do not belong together', () => {
  for (const password of ['password1234', 'qwertyuiop12', 'aaaaaaaaaaaa', '123456789012', 'harbourmaster'])
    expect(() => {
      checkPassword(password, person)
    }).toThrow(/first that are tried/)
  for (const password of ['twelve twelfths', 'heron lantern gravel', 'über die Mole läuft der Igel'])
    expect(() => {
      checkPassword(password, person)
    }).not.toThrow()
})
