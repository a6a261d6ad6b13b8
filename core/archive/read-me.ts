import type { TalkArchive } from './talk-archive'

/** What is in an archive, for whoever opens it in years. */
export const readMe = ({ talk, made, version }: TalkArchive): string => `${talk.name}

This is a whole talk, saved on ${made.slice(0, 10)} (format ${String(version)}).

talk.json     all of it: slides, what was recorded and when what was shown, the programme (the finished talk as a list of parts of
              recordings), words. Times are milliseconds, places fractions of the slide.
deck/         the files of the deck as they were brought, pictures of its slides, clips
recordings/   every recording as it came (WebM), take by take and part by part
ink/          what was drawn, as InkML (W3C)
edit/         for tools that edit films: an edit list (OpenTimelineIO), and for each take a film of its slides, one of its face, its voice
words/        captions (WebVTT, SubRip) and the transcript
files/        files that were made, where they were asked for
talk-files/   files that go with the talk

Bring this file in on the page “Talks” of any server of this kind, and the talk is there again with all of it.
`
