import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Slides made here, transitions, notes for viewers, framings with more to them, a talk's language, where an import goes. */
export const prepare: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table talk add column language text not null default 'en' check (language ~ '^[a-z]{2,3}(-[A-Za-z0-9]{2,8}){0,3}$');
      alter table slide add column viewer_notes text not null default '';
      alter table slide_version add column composition jsonb;
      alter table slide_version add column transition text not null default 'cut' check (transition in ('cut', 'fade', 'push', 'wipe'));
      alter table import add column place integer check (place >= 0);
      alter table import add column builds jsonb;
      alter table import add column slides jsonb;
      -- What a framing did not say before is what it was then.
      update slide_version set framing = '{"placing": "over", "border": "thin", "zoom": 1, "centre": {"x": 0.5, "y": 0.5}}'::jsonb
        || framing
        where framing is not null and jsonb_typeof(framing) = 'object';
    `.execute(db)
  },
}
