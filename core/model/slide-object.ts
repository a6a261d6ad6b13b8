import type { ColourOnSlide, Theme } from './composition'
import type { Point, Rect, Size } from './geometry'
import type { AssetId, MotionId, ObjectId } from './id'
import type { Ms } from './time'

/** Which way a line runs through its box: from the upper left or the lower left corner, to the one across. */
export const SLANTS = ['falling', 'rising'] as const
export type Slant = (typeof SLANTS)[number]

export const TEXT_ALIGNS = ['start', 'middle', 'end'] as const
export type TextAlign = (typeof TEXT_ALIGNS)[number]

interface Outlined {
  readonly filled: boolean
  readonly breadth: number
  /** Words in its middle, as CommonMark; may be empty. */
  readonly label: string
}

/** What an object is. Places inside of one are in fractions of its box. */
export type ObjectForm =
  | {
      readonly kind: 'text'
      /** CommonMark blocks. */
      readonly text: string
      /** Height of its letters, as a fraction of the slide's shorter side. */
      readonly letters: number
      readonly align: TextAlign
    }
  | {
      readonly kind: 'picture'
      readonly asset: AssetId
      readonly size: Size
      /** What it shows, for those who do not see it. */
      readonly alt: string
    }
  | { readonly kind: 'line'; readonly slant: Slant; readonly breadth: number }
  /** `back`: its head is where the line begins. */
  | { readonly kind: 'arrow'; readonly slant: Slant; readonly back: boolean; readonly breadth: number }
  | ({ readonly kind: 'box' } & Outlined)
  | ({ readonly kind: 'ellipse' } & Outlined)
  /** A box with words and a tip that points at something, which may lie outside of it. */
  | { readonly kind: 'callout'; readonly label: string; readonly tip: Point }
  | { readonly kind: 'freehand'; readonly points: readonly Point[]; readonly breadth: number }
export type ObjectKind = ObjectForm['kind']

/** Something that lies on a slide, over what it was made of. */
export interface SlideObject {
  readonly id: ObjectId
  readonly form: ObjectForm
  /** In fractions of the slide; parts of it may lie outside. */
  readonly box: Rect
  /** Clockwise about its middle, in degrees, -180 to 180. */
  readonly turn: number
  readonly colour: ColourOnSlide
  /** 0 to 1. */
  readonly opacity: number
  /** Whether it is left alone by the pointer. */
  readonly locked: boolean
  /** Those of one name are chosen and moved together; null: it is by itself. */
  readonly group: string | null
}

export const MOTION_STARTS = ['step', 'together', 'after'] as const
/**
 * When a motion begins: with its step, with the motion before it in the list, or when that has ended. The first of a step begins with it
 * in any case.
 */
export type MotionStart = (typeof MOTION_STARTS)[number]

export const EASES = ['calm', 'even', 'leaving', 'arriving'] as const
/** How a motion's speed goes: slow at both ends, the same throughout, slow at first, or slow at last. */
export type Ease = (typeof EASES)[number]

export const ENTRANCES = ['at-once', 'fade', 'grow'] as const
export type Entrance = (typeof ENTRANCES)[number]

export const PATH_LINES = ['straight', 'curved', 'freehand'] as const
/** How a path goes from point to point: straight, in a curve through all of them, or as it was drawn. */
export type PathLine = (typeof PATH_LINES)[number]

/** What a motion does to its object. */
export type MotionDeed =
  /** Before it, the object is not there. */
  | { readonly kind: 'comes'; readonly how: Entrance }
  | { readonly kind: 'goes'; readonly how: Entrance }
  | {
      readonly kind: 'path'
      /** Where its middle comes by, from where it stands before, in fractions of the slide. */
      readonly points: readonly Point[]
      readonly line: PathLine
      /** Whether it turns as its way does. */
      readonly turns: boolean
    }
  /** How large it is then, for its own size. */
  | { readonly kind: 'grows'; readonly to: number }
  /** Its opacity then. */
  | { readonly kind: 'fades'; readonly to: number }

export interface ObjectMotion {
  readonly id: MotionId
  readonly object: ObjectId
  /** Of the slide, counted from 0. */
  readonly step: number
  readonly start: MotionStart
  /** From then on, in ms. */
  readonly delay: Ms
  readonly duration: Ms
  readonly ease: Ease
  readonly does: MotionDeed
}

/** A step that begins by itself: so long after the one before it began, or after the last of that one's motions ended. */
export interface StepStart {
  readonly step: number
  readonly after: 'begun' | 'ended'
  readonly wait: Ms
}

/** What is drawn on a slide, the lowest first, and how it moves. */
export interface Drawing {
  readonly objects: readonly SlideObject[]
  /** Those of a step in the order in which they begin. */
  readonly motions: readonly ObjectMotion[]
  /** No two of one step. */
  readonly starts: readonly StepStart[]
  /** What its colours are taken from on slides that came from a file. */
  readonly theme: Theme
}
export const NOTHING_DRAWN: Drawing = { objects: [], motions: [], starts: [], theme: 'paper' }

/** Most objects and motions on one slide, points of a path or a line drawn by hand, and steps that motions add to it. */
export const MOST_OBJECTS = 200
export const MOST_MOTIONS = 400
export const MOST_POINTS = 10_000
export const MOST_DRAWN_STEPS = 60
/** Longest that a motion takes, or waits, in ms. */
export const LONGEST_MOTION: Ms = 600_000
/** Lengths of words on objects. */
export const MOST_WORDS_ON = { text: 4000, label: 600, alt: 300 } as const
/** Breadths of lines and heights of letters, as fractions of the slide's shorter side. */
export const BREADTH = { least: 0.001, usual: 0.006, most: 0.05 } as const
export const LETTERS = { least: 0.015, usual: 0.05, most: 0.4 } as const
/** How far outside of the slide something may lie, in fractions of it, and how large it may be. */
export const FAR_OUTSIDE = 3
export const SMALLEST_OBJECT = 0.002
/** Largest that an object grows. */
export const MOST_GROWN = 20
