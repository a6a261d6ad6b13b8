import type {
  Clip,
  Drawing,
  Composition,
  Cue,
  DeliveryFacts,
  DeliveryState,
  Framing,
  Intent,
  Preset,
  Programme,
  Recipe,
  Size,
  Slide,
  Snapshot,
  Step,
  StillTimes,
  TakeKind,
  Transition,
  WindowView,
} from '@core/model'
import type { Probe } from '@core/plan'
import type { ChangeReason } from '@core/programme'
import type { OfficeReport } from '@core/office'
import type { ChangeRole, DeckMatchView, ImportView, KeptCard, TakePlace, TakeView } from '@contracts'
import type { Delta } from 'jsondiffpatch'
import type { Generated, GeneratedAlways, JSONColumnType } from 'kysely'
import type { CallPersonTable, CallTable, EntrantTable, EntryTable } from './call-tables'
import type { BackdropFilmTable } from './backdrop-tables'
import type { TalkExportTable } from './export-tables'
import type { IdentityTable, PersonLinkTable, PersonTable, SignedInTable } from './people-tables'
import type { SpeechTable, StretchWordsTable, WordCorrectionTable } from './word-tables'
import type { HandInTable, PlaceTable, RuleSetTable, SendingTable } from './hand-in-tables'
import type {
  GroupMemberTable,
  LetterTable,
  QuestionTable,
  SharePersonTable,
  SeriesTable,
  SeriesTalkTable,
  SeriesUnwantedTable,
  ShareTable,
  SharedFileTable,
  SharedLinkTable,
  StreamTable,
  ViewerGroupTable,
  ViewerTicketTable,
  WatchedByTable,
  WatchedDayTable,
  WatchedPartTable,
} from './sharing-tables'

/** A column that is JSON in the database and a typed value here. */
type Json<Value extends object | null> = JSONColumnType<Value, string, string>
type Moment = Generated<Date>

export interface TalkTable {
  id: string
  owner: string
  name: string
  limit_ms: number | null
  shape: Json<Size>
  language: Generated<string>
  revision: Generated<number>
  programme_revision: Generated<number>
  recipe: Json<Recipe>
  /** Names and terms that are said in it. */
  terms: JSONColumnType<readonly string[], string | undefined, string>
  /** Whether it came with the product. */
  demo: Generated<boolean>
  created: Moment
  changed: Moment
  deleted: Date | null
  /** When its owner was told that it goes, as nobody has touched it for so long. */
  told_untouched: Generated<Date | null>
}

/** What the page of all talks shows of one, kept ready. */
export interface TalkCardTable {
  talk: string
  /** As its talk has them: the database sees to that. */
  owner: string
  name: string
  changed: Date
  demo: boolean
  /** Rises with every change of what it shows. */
  version: Generated<number>
  /** The version that the card is of; null: none was made yet. */
  made: number | null
  card: Json<KeptCard> | null
  /** What the talk waits for, by its place among the steps. */
  waits: number | null
}

export interface SlideTable {
  id: string
  talk: string
  /** null once it is off the deck. */
  position: number | null
  version: number
  title: string
  /** Heading of a part of the talk that begins with it. */
  section: Generated<string>
  notes: string
  viewer_notes: Generated<string>
  description: Generated<string>
  planned_ms: number | null
  skip: boolean
  /** May go when the talk is too long. */
  optional: Generated<boolean>
  changed_revision: Generated<number>
}

/** What viewers see of a slide, kept for every version that was ever shown. */
export interface SlideVersionTable {
  slide: string
  version: number
  steps: Json<readonly Step[]>
  framing: Json<Framing> | null
  /** See the slide's of that name. */
  proposed_inset: Json<NonNullable<Slide['proposedInset']>> | null
  composition: Json<Composition> | null
  /** null: it has none. */
  clips: Json<readonly Clip[]> | null
  /** null: nothing is drawn on it. */
  drawing: Json<Drawing> | null
  transition: Generated<Transition>
}

export interface AssetTable {
  talk: string
  digest: string
  mime: string
  bytes: number
}

export interface ImportTable {
  id: string
  talk: string
  name: string
  files: Json<readonly { readonly digest: string; readonly name: string }[]>
  state: ImportView['state']
  pages_done: Generated<number>
  pages_total: number | null
  /** Where its slides go; null: at the end. */
  place: number | null
  /** Slides that may be steps of one; see ImportView. */
  builds: Json<readonly (readonly string[])[]> | null
  /** What it has put in so far. */
  slides: Json<readonly string[]> | null
  /** With which revision of the deck each of them came; null of those that came before that was noted. */
  revisions: Json<readonly number[]> | null
  /** What was in office files, and what of it is not here. */
  report: Json<readonly OfficeReport[]> | null
  report_seen: Generated<boolean>
  /** The take that their recording became. */
  take: string | null
  /** The slide that its films and sounds are put on; null: they come as slides. */
  onto: string | null
  /** Its slides are to take the place of the deck, and what became of that; null: they are put into it. */
  replaces: ImportView['replaces']
  /** Which slide is which; see `DeckMatchView`. */
  match: Json<DeckMatchView['pairs']> | null
  /** The deck that was replaced, as long as it can be given back. */
  deck_before: Json<readonly Slide[]> | null
  sentence: string | null
  created: Moment
}

export interface TakeTable {
  id: string
  talk: string
  kind: TakeKind
  intent: Json<Intent>
  state: TakeView['state']
  sentence: string | null
  started: Moment
  discarded: Date | null
  /** The browser that records it. */
  place: Json<TakePlace> | null
  seen: Moment
}

export interface StretchTable {
  id: string
  take: string
  number: number
  camera: boolean
  /** Without a voice it has no recording, only cues. */
  voice: boolean
  mime: string
  opening: Json<Snapshot>
  length_ms: number | null
  /** How much of it counts; null: all. */
  kept_ms: number | null
  chunks: number | null
  cues: number | null
  /** What its page said of where it begins in its recording, in ms. */
  offset_picture: number
  offset_sound: number
  /** Where it was found to begin, in ms; null until then. */
  picture_at: Generated<number | null>
  sound_at: Generated<number | null>
  state: 'open' | 'closing' | 'ready' | 'failed'
  peaks: Json<readonly number[]> | null
  /** LUFS; null when it is too quiet to say. */
  loudness: number | null
  camera_lost_ms: Generated<number>
  /** Prints of the voice that arrived, by number. */
  prints: Json<Readonly<Record<string, { readonly at: number; readonly rate: number }>>> | null
  /** What was said last when it was cut off: when it begins, in ms of the stretch, and its samples a second. */
  tail: Json<{ readonly at: number; readonly rate: number }> | null
  /** Whether its sound was matched with a print, or only taken to begin where the recorder began; null before that. */
  timing: 'measured' | 'approximate' | null
  /** How much faster the microphone's clock ran than the page's, in parts of a million. */
  drift_ppm: number | null
  /** Closed by who recorded it; false: by somebody who took it for broken off, and the rest may still come. */
  whole: Generated<boolean>
  /** SHA-256 of its files when they were called ready; null before that, and of those made before it was noted. */
  raw_digest: Generated<string | null>
  recording_digest: Generated<string | null>
  voice_digest: Generated<string | null>
  /** Of its chunks that have come. */
  bytes: Generated<number>
  /** The stretch during which this window was shown; null: it is none of a window. */
  window_of: string | null
  window_view: Json<WindowView> | null
  /** Full-size pictures of a window at rest that have come, by number: from when to when it looked like that, in ms of the recording. */
  stills: Json<Readonly<Record<string, StillTimes>>> | null
}

export interface ChunkTable {
  stretch: string
  n: number
  bytes: number
  digest: string
}

export interface CueTable {
  stretch: string
  n: number
  cue: Json<Cue>
}

export interface ProgrammeTable {
  talk: string
  revision: number
  /** null: it is kept by how it differs from the revision after it. */
  value: Json<Programme> | null
  difference: Json<NonNullable<Delta>> | null
  reason: Json<ChangeReason>
  made: Moment
  /** The browser that made it; null when nobody did, or before that was noted. */
  author: string | null
  role: Generated<ChangeRole>
  /** Of the whole talk. */
  length_ms: number
  /** The revision that an undo or redo took back. */
  takes_back: number | null
}

export interface NamedVersionTable {
  talk: string
  revision: number
  name: string
  made: Moment
}

/** What was found out of a talk's pictures, by how they were to be made. */
export interface ProbeTable {
  talk: string
  setting: string
  programme_revision: number | null
  found: Json<Probe>
  made: Moment
}

export interface DeliveryTable {
  id: string
  talk: string
  number: GeneratedAlways<number>
  recipe: Json<Recipe>
  /** Of what was recorded; null: of planned times. */
  programme_revision: number | null
  file: string
  state: DeliveryState
  length_ms: number
  width: number
  height: number
  frames_done: Generated<number>
  frames_total: number
  time_left_ms: number | null
  /** `reckoned`: the time on a machine of the usual speed; not in those made before it was noted. */
  estimate: Json<{ bytes: number; time: number; reckoned?: number }>
  sentence: string | null
  facts: Json<DeliveryFacts> | null
  created: Moment
  /** Not before. */
  starts: Date | null
  /** Of those that wait, lower ones are made first. */
  place: Generated<number>
  /** Grows when it is told to stop: whoever makes it for an earlier turn is to end. */
  turn: Generated<number>
  /** SHA-256 of the finished file; null before that, and of those made before it was noted. */
  digest: Generated<string | null>
  /** Workers that make its pictures, the one whose it is first. */
  helpers: JSONColumnType<readonly string[], string | undefined, string>
}

/** A recipe that a person keeps for other talks. */
export interface PresetTable {
  id: string
  owner: string
  name: string
  preset: Json<Preset>
  made: Moment
}

export interface RehearsalTable {
  id: string
  talk: string
  started: Date
  visits: Json<readonly { readonly slide: string; readonly length: number; readonly spoken?: number }[]>
}

/** Who does something now: the number rises with everybody who begins it. */
export interface ClaimTable {
  name: string
  number: number
  since: Moment
}

export interface WorkerTable {
  id: string
  seen: Moment
}

export interface StoreIdentityTable {
  id: string
  single: Generated<boolean>
}

export interface Tables {
  person: PersonTable
  signed_in: SignedInTable
  person_link: PersonLinkTable
  identity: IdentityTable
  talk: TalkTable
  talk_card: TalkCardTable
  slide: SlideTable
  slide_version: SlideVersionTable
  asset: AssetTable
  import: ImportTable
  take: TakeTable
  stretch: StretchTable
  chunk: ChunkTable
  cue: CueTable
  programme: ProgrammeTable
  named_version: NamedVersionTable
  delivery: DeliveryTable
  preset: PresetTable
  probe: ProbeTable
  rehearsal: RehearsalTable
  speech: SpeechTable
  share: ShareTable
  series: SeriesTable
  series_talk: SeriesTalkTable
  series_unwanted: SeriesUnwantedTable
  watched_day: WatchedDayTable
  watched_part: WatchedPartTable
  watched_by: WatchedByTable
  viewer_group: ViewerGroupTable
  group_member: GroupMemberTable
  share_person: SharePersonTable
  viewer_ticket: ViewerTicketTable
  letter: LetterTable
  question: QuestionTable
  shared_file: SharedFileTable
  shared_link: SharedLinkTable
  stream: StreamTable
  stretch_words: StretchWordsTable
  word_correction: WordCorrectionTable
  rule_set: RuleSetTable
  hand_in: HandInTable
  place: PlaceTable
  sending: SendingTable
  call: CallTable
  call_person: CallPersonTable
  entrant: EntrantTable
  entry: EntryTable
  talk_export: TalkExportTable
  backdrop_film: BackdropFilmTable
  claim: ClaimTable
  worker: WorkerTable
  store_identity: StoreIdentityTable
}
