import type { Migration } from 'kysely'
import { first } from './0001-first'
import { prepare } from './0002-prepare'
import { rehearse } from './0003-rehearse'
import { lectern } from './0004-lectern'
import { anchor } from './0005-anchor'
import { history } from './0006-history'

/** Forward only, in order of their names. */
export const migrations: Readonly<Record<string, Migration>> = {
  '0001-first': first,
  '0002-prepare': prepare,
  '0003-rehearse': rehearse,
  '0004-lectern': lectern,
  '0005-anchor': anchor,
  '0006-history': history,
}
