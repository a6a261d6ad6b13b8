import { sql } from 'kysely'
import type { RawBuilder } from 'kysely'
import type { Ms } from '@core/model'

/** A time so long before now, on the database's clock, by which all processes go. */
export const ago = (ms: Ms): RawBuilder<Date> => sql<Date>`now() - make_interval(secs => ${ms / 1000})`
