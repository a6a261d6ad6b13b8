import { sql } from 'kysely'
import type { Migration } from 'kysely'

/** What was said of changes until now, and what is kept of it. Of a take and of parts it is said besides which, and how many. */
const SAID = {
  'cut a part': { kind: 'cut', parts: 1 },
  'cut a slide': { kind: 'drop' },
  'opened a cut again': { kind: 'reopen' },
  'moved a slide': { kind: 'move' },
  'repeated a slide': { kind: 'repeat' },
  'changed the tempo': { kind: 'tempo' },
  'changed how long a slide is held': { kind: 'hold' },
  'took the voice off a slide': { kind: 'hush' },
  'held a slide for longer': { kind: 'linger' },
  'put in a slide': { kind: 'insert' },
  'took the face off': { kind: 'framing', off: true },
  'moved the face': { kind: 'framing', off: false },
  'deleted ink': { kind: 'ink', change: 'delete' },
  'recoloured ink': { kind: 'ink', change: 'colour' },
  'moved ink in time': { kind: 'ink', change: 'shift' },
  'drew ink': { kind: 'draw' },
  'fitted the talk': { kind: 'all' },
  'took another recording of a slide': { kind: 'use' },
  'slides changed': { kind: 'slides' },
  'went back to an earlier version': { kind: 'return' },
} as const

/** Why a programme was changed is kept as what it was, not as words. */
export const reasons: Migration = {
  async up(db) {
    await sql`
      alter table programme add column why jsonb;
      update programme set why = case
        when reason ~ '^take [0-9a-f-]{36}$' then jsonb_build_object('kind', 'take', 'take', substring(reason from 6))
        when reason ~ '^discarded take [0-9a-f-]{36}$' then jsonb_build_object('kind', 'discard', 'take', substring(reason from 16))
        when reason ~ '^cut [0-9]+ parts$' then
          jsonb_build_object('kind', 'cut', 'parts', substring(reason from '[0-9]+')::integer)
        else coalesce(${sql.lit(JSON.stringify(SAID))}::jsonb -> reason, '{"kind": "other"}') end;
      alter table programme
        drop column reason,
        alter column why set not null,
        add check (why ->> 'kind' is not null);
      alter table programme rename column why to reason;
    `.execute(db)
  },
}
