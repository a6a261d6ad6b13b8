import { Feed } from 'feed'
import { getRouterParam, setResponseHeaders } from 'h3'
import { database } from '@server/database'
import { addressOf, seriesPage } from '@server/domain'
import { answer, networkOf, refuseGuesser } from '@server/http'
import { settings } from '@server/settings'

/** A series for programs that look for what is new (Atom, RFC 4287). */
export default answer(async (event) => {
  await refuseGuesser(networkOf(event))
  const { name, description, path, talks } = await seriesPage(database(), getRouterParam(event, 'key') ?? '')
  const { publicAddress } = settings()
  const address = `${publicAddress}${path}`
  const newest = talks
    .map(({ changed }) => changed)
    .sort()
    .at(-1)
  const feed = new Feed({
    id: address,
    title: name,
    description,
    link: address,
    feedLinks: { atom: `${address}/feed.xml` },
    copyright: '',
    updated: new Date(newest ?? 0),
    author: { name: talks.find(({ presenter }) => presenter !== '')?.presenter ?? 'Aisle Talk' },
  })
  for (const talk of talks) {
    const link = addressOf(talk.key)
    const author = talk.presenter === '' ? {} : { author: [{ name: talk.presenter }] }
    feed.addItem({
      id: link,
      title: talk.title,
      link: `${link}?in=${path.split('/').at(-1) ?? ''}`,
      description: talk.description,
      date: new Date(talk.changed),
      ...author,
    })
  }
  setResponseHeaders(event, { 'content-type': 'application/atom+xml; charset=utf-8', 'cache-control': 'public, max-age=300' })
  return feed.atom1()
})
