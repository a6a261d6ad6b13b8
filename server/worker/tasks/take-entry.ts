import { database } from '@server/database'
import { giveEntryUp, takeEntry } from '@server/domain'

/** Takes in what was handed in for a call, or refuses it. */
export const takeEntryTask = (entry: string): Promise<void> => takeEntry(database(), entry)

export const takeEntryGivenUp = (entry: string): Promise<void> => giveEntryUp(database(), entry)
