import { answer } from '@server/http'

export default answer(async (event) => {
  await clearUserSession(event)
  return { ok: true }
})
