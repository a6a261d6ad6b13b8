import { answer, signOutHere } from '@server/http'

export default answer(async (event) => {
  await signOutHere(event)
  return { ok: true }
})
