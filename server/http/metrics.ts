import { Gauge, Histogram, Registry, collectDefaultMetrics } from 'prom-client'
import { QUEUE_NAMES } from '@contracts'
import { database } from '@server/database'
import { livingWorkers, queueStates, serverCounts } from '@server/domain'
import { roomLeft } from '@server/store'

/*
 * What a program that watches servers asks for (the text format of Prometheus). No names, no addresses: routes are given without what
 * stands in them.
 */

const registry = new Registry()
collectDefaultMetrics({ register: registry })

const requests = new Histogram({
  name: 'aisle_request_seconds',
  help: 'Time until an answer began',
  labelNames: ['method', 'route', 'status'],
  buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10],
  registers: [registry],
})

/** An answer began. @param took in ms */
export const requestTook = (of: { readonly method: string; readonly route: string; readonly status: number }, took: number): void => {
  requests.observe({ method: of.method, route: of.route, status: String(of.status) }, took / 1000)
}

const gauge = (name: string, help: string, labelNames: readonly string[] = []): Gauge =>
  new Gauge({ name: `aisle_${name}`, help, labelNames: [...labelNames], registers: [registry] })

const room = gauge('store_free_bytes', 'Room on the disk of the media store')
const waiting = gauge('jobs_waiting', 'Jobs that could be done now and are not', ['queue'])
const underWay = gauge('jobs_under_way', 'Jobs that are being done', ['queue'])
const failed = gauge('jobs_failed', 'Jobs that were tried as often as they may', ['queue'])
const oldest = gauge('job_oldest_seconds', 'How long the job that waits longest does', ['queue'])
const workers = gauge('workers', 'Workers that gave a sign of life lately')
const recordings = gauge('recordings', 'Takes that are being recorded')
const talks = gauge('talks', 'Talks that are kept')
const people = gauge('people', 'People with an account')

/** Everything as text, with what it is of. */
export async function metricsText(): Promise<{ readonly type: string; readonly text: string }> {
  const q = database()
  const [left, queues, living, counts] = await Promise.all([roomLeft(), queueStates(q), livingWorkers(q), serverCounts(q)])
  room.set(left)
  workers.set(living)
  recordings.set(counts.recordings)
  talks.set(counts.talks)
  people.set(counts.people)
  for (const name of QUEUE_NAMES) {
    const state = queues.find((queue) => queue.name === name)
    waiting.set({ queue: name }, state?.waiting ?? 0)
    underWay.set({ queue: name }, state?.underWay ?? 0)
    failed.set({ queue: name }, state?.failed ?? 0)
    oldest.set({ queue: name }, (state?.oldest ?? 0) / 1000)
  }
  return { type: registry.contentType, text: await registry.metrics() }
}
