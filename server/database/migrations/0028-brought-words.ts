import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Corrections from a caption file can be taken back together; what is said may have been heard by a model that an operator brought. */
export const broughtWords: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table word_correction add column brought boolean not null default false;
      alter table stretch_words drop constraint stretch_words_listened_by_check;
      alter table stretch_words add constraint stretch_words_listened_by_check check (listened_by in ('model', 'folder', 'pauses'));
    `.execute(db)
  },
}
