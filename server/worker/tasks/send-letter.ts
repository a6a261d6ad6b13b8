import { createTransport } from 'nodemailer'
import { database } from '@server/database'
import { letterSettled, letterToSend } from '@server/domain'
import { settings } from '@server/settings'
import { deliveryPath, here } from '@server/store'

/** A mail server that does not answer in so long is asked again later, in ms. */
const PATIENCE = 30_000

/** Whether a mail server refuses for good (RFC 5321, 4.2.1: 5yz), and asking again would not help. */
const isFinal = (error: unknown): error is Error & { readonly responseCode: number } =>
  error instanceof Error && 'responseCode' in error && typeof error.responseCode === 'number' && error.responseCode >= 500

/** Hands a letter to the mail server. @throws Error when that is away, so that it is tried again */
export async function sendLetterTask(id: string): Promise<void> {
  const letter = await letterToSend(database(), id)
  const { smtpUrl, mailFrom } = settings()
  if (letter === null || smtpUrl === null) return
  const transport = createTransport({ url: smtpUrl, connectionTimeout: PATIENCE, greetingTimeout: PATIENCE, socketTimeout: PATIENCE })
  try {
    const { recipient: to, subject, body: text, attached } = letter
    const attachments = attached === undefined ? [] : [{ filename: attached.file, path: await here(deliveryPath(attached.delivery)) }]
    await transport.sendMail({ from: mailFrom, to, subject, text, attachments })
    await letterSettled(database(), id, null)
  } catch (error) {
    if (!isFinal(error)) throw error
    await letterSettled(database(), id, `The mail server did not take it: ${error.message}`)
  } finally {
    transport.close()
  }
}

export async function sendLetterGivenUp(id: string): Promise<void> {
  await letterSettled(database(), id, 'The mail server could not be reached.')
}
