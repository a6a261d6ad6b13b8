import { randomUUID } from 'node:crypto'

/** This process, as jobs name it. */
export const WORKER = randomUUID()

/** Marks a job that some worker is not to do: it does a part of it already. */
export const notFor = (worker: string): string => `not-${worker}`
