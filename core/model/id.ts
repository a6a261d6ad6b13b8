declare const brand: unique symbol

/** A string that can only be used where its own kind of id is asked for. */
export type Id<Kind extends string> = string & { readonly [brand]: Kind }

export type PersonId = Id<'person'>
export type TalkId = Id<'talk'>
export type SlideId = Id<'slide'>
export type TakeId = Id<'take'>
export type StretchId = Id<'stretch'>
export type StrokeId = Id<'stroke'>
export type ClipId = Id<'clip'>
/** Of something that lies on a slide, and of one of its motions. */
export type ObjectId = Id<'object'>
export type MotionId = Id<'motion'>
export type VisitId = Id<'visit'>
export type OverlayId = Id<'overlay'>
export type BedId = Id<'bed'>
export type CutId = Id<'cut'>
/** A slide that is held without a recording; its time is counted like that of a recording. */
export type StillId = Id<'still'>
export type DeliveryId = Id<'delivery'>
export type TalkExportId = Id<'talk-export'>
export type SharedFileId = Id<'shared-file'>
export type GroupId = Id<'group'>
/** SHA-256 of the bytes it names, in lower-case hex: the media store is addressed by content. */
export type AssetId = Id<'asset'>

/**
 * Gives a string its kind at a border, after its form has been checked there.
 * @param text the id as it came in
 */
export const asId = <Kind extends string>(text: string): Id<Kind> => text as Id<Kind>
