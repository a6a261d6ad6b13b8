import type { Migration } from 'kysely'
import { first } from './0001-first'
import { prepare } from './0002-prepare'
import { rehearse } from './0003-rehearse'
import { lectern } from './0004-lectern'
import { anchor } from './0005-anchor'
import { history } from './0006-history'
import { optional } from './0007-optional'
import { recipes } from './0008-recipes'
import { tails } from './0009-tails'
import { widerRecipes } from './0010-wider-recipes'
import { helpers } from './0011-helpers'
import { cutsAreMarks } from './0012-cuts-are-marks'
import { signedIn } from './0013-signed-in'
import { lateParts } from './0014-late-parts'
import { claimsAndDigests } from './0015-claims-and-digests'
import { demoTalks } from './0016-demo-talks'
import { reasons } from './0017-reasons'
import { chunks } from './0018-chunks'
import { shares } from './0019-shares'
import { streams } from './0020-streams'
import { openTakes } from './0021-open-takes'
import { withTheTalk } from './0022-with-the-talk'
import { descriptions } from './0023-descriptions'
import { audiences } from './0024-audiences'
import { watched } from './0025-watched'
import { series } from './0026-series'
import { words } from './0027-words'
import { broughtWords } from './0028-brought-words'
import { officeDecks } from './0029-office-decks'
import { clips } from './0030-clips'
import { replacedDecks } from './0031-replaced-decks'
import { windowViews } from './0032-window-views'
import { handIns } from './0033-hand-ins'
import { calls } from './0034-calls'
import { exports } from './0035-exports'
import { backdropFilms } from './0036-backdrop-films'
import { drawings } from './0037-drawings'
import { people } from './0038-people'
import { talkCards } from './0039-talk-cards'
import { cardsFollow } from './0040-cards-follow'
import { oftenAsked } from './0041-often-asked'
import { differences } from './0042-differences'
import { lookedThrough } from './0043-looked-through'
import { storeIdentity } from './0044-store-identity'

/** Forward only, in order of their names. */
export const migrations: Readonly<Record<string, Migration>> = {
  '0001-first': first,
  '0002-prepare': prepare,
  '0003-rehearse': rehearse,
  '0004-lectern': lectern,
  '0005-anchor': anchor,
  '0006-history': history,
  '0007-optional': optional,
  '0008-recipes': recipes,
  '0009-tails': tails,
  '0010-wider-recipes': widerRecipes,
  '0011-helpers': helpers,
  '0012-cuts-are-marks': cutsAreMarks,
  '0013-signed-in': signedIn,
  '0014-late-parts': lateParts,
  '0015-claims-and-digests': claimsAndDigests,
  '0016-demo-talks': demoTalks,
  '0017-reasons': reasons,
  '0018-chunks': chunks,
  '0019-shares': shares,
  '0020-streams': streams,
  '0021-open-takes': openTakes,
  '0022-with-the-talk': withTheTalk,
  '0023-descriptions': descriptions,
  '0024-audiences': audiences,
  '0025-watched': watched,
  '0026-series': series,
  '0027-words': words,
  '0028-brought-words': broughtWords,
  '0029-office-decks': officeDecks,
  '0030-clips': clips,
  '0031-replaced-decks': replacedDecks,
  '0032-window-views': windowViews,
  '0033-hand-ins': handIns,
  '0034-calls': calls,
  '0035-exports': exports,
  '0036-backdrop-films': backdropFilms,
  '0037-drawings': drawings,
  '0038-people': people,
  '0039-talk-cards': talkCards,
  '0040-cards-follow': cardsFollow,
  '0041-often-asked': oftenAsked,
  '0042-differences': differences,
  '0043-looked-through': lookedThrough,
  '0044-store-identity': storeIdentity,
}
