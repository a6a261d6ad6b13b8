import { zxcvbn, zxcvbnOptions } from '@zxcvbn-ts/core'
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common'
import { Refusal } from '@core/model'

zxcvbnOptions.setOptions({ dictionary, graphs: adjacencyGraphs })

/** Passwords that are found with fewer guesses than its score of 2 stands for, a hundred million, are not taken. */
const LEAST = 2

/**
 * Makes sure that a password is none of those that are tried first: known ones, keys in a row, the person's own name.
 * @throws Refusal `malformed` saying what to do
 */
export function checkPassword(password: string, { name, email }: { readonly name: string; readonly email: string }): void {
  // Only its beginning is looked at: the time that takes grows with the square of its length.
  const { score } = zxcvbn(password.slice(0, 64), [name, ...name.split(/\s+/), ...email.split(/[@.]/)])
  if (score < LEAST)
    throw new Refusal(
      'malformed',
      'This password is among the first that are tried. Take another: a few words that do not belong together are easy to keep in mind.',
    )
}
