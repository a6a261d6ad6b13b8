/** Shapes of a slide that its timing is about, by their ids. */
export interface TimedShapes {
  /** Each comes with a click of its own, in order. */
  readonly comes: readonly string[]
  /** What was recorded on the slide; null: nothing was. */
  readonly narration: { readonly shape: string; readonly kind: 'audio' | 'video' } | null
}

/** Numbers time nodes, as the format asks for. */
class NodeIds {
  #last = 2
  readonly next = (): string => String((this.#last += 1))
}

const target = (shape: string): string => `<p:tgtEl><p:spTgt spid="${shape}"/></p:tgtEl>`
const starts = (delay: string): string => `<p:stCondLst><p:cond delay="${delay}"/></p:stCondLst>`

/** A click with what it brings. */
function click(shape: string, { next }: NodeIds): string {
  const [outer, inner, effect, set] = [next(), next(), next(), next()]
  return (
    `<p:par><p:cTn id="${outer}" fill="hold">${starts('indefinite')}<p:childTnLst><p:par><p:cTn id="${inner}" fill="hold">${starts('0')}` +
    `<p:childTnLst><p:par><p:cTn id="${effect}" presetID="1" presetClass="entr" presetSubtype="0" fill="hold" nodeType="clickEffect">` +
    `${starts('0')}<p:childTnLst><p:set><p:cBhvr><p:cTn id="${set}" dur="1" fill="hold">${starts('0')}</p:cTn>${target(shape)}` +
    '<p:attrNameLst><p:attrName>style.visibility</p:attrName></p:attrNameLst></p:cBhvr><p:to><p:strVal val="visible"/></p:to></p:set>' +
    '</p:childTnLst></p:cTn></p:par></p:childTnLst></p:cTn></p:par></p:childTnLst></p:cTn></p:par>'
  )
}

/** The recording begins by itself when the slide appears. */
function playing({ shape }: NonNullable<TimedShapes['narration']>, { next }: NodeIds): string {
  const [outer, inner, effect, call] = [next(), next(), next(), next()]
  const atOnce = '<p:stCondLst><p:cond delay="indefinite"/><p:cond evt="onBegin" delay="0"><p:tn val="2"/></p:cond></p:stCondLst>'
  return (
    `<p:par><p:cTn id="${outer}" fill="hold">${atOnce}<p:childTnLst><p:par><p:cTn id="${inner}" fill="hold">${starts('0')}` +
    `<p:childTnLst><p:par><p:cTn id="${effect}" ` +
    `presetID="1" presetClass="mediacall" presetSubtype="0" fill="hold" nodeType="afterEffect">${starts('0')}<p:childTnLst>` +
    `<p:cmd type="call" cmd="playFrom(0.0)"><p:cBhvr><p:cTn id="${call}" dur="1" fill="hold"/>${target(shape)}</p:cBhvr></p:cmd>` +
    '</p:childTnLst></p:cTn></p:par></p:childTnLst></p:cTn></p:par></p:childTnLst></p:cTn></p:par>'
  )
}

/** The medium itself, marked as what its presenter recorded. */
const narrated = ({ shape, kind }: NonNullable<TimedShapes['narration']>, { next }: NodeIds): string =>
  `<p:${kind} isNarration="1"><p:cMediaNode vol="100000" showWhenStopped="${kind === 'video' ? '1' : '0'}">` +
  `<p:cTn id="${next()}" fill="hold" display="0">${starts('indefinite')}</p:cTn>${target(shape)}</p:cMediaNode></p:${kind}>`

/** Timing of a slide in PresentationML (ISO/IEC 29500-1, 19.5); empty when it has none. */
export function slideTiming({ comes, narration }: TimedShapes): string {
  if (comes.length === 0 && narration === null) return ''
  const ids = new NodeIds()
  const sequence = `${narration === null ? '' : playing(narration, ids)}${comes.map((shape) => click(shape, ids)).join('')}`
  return (
    '<p:timing><p:tnLst><p:par><p:cTn id="1" dur="indefinite" restart="never" nodeType="tmRoot"><p:childTnLst>' +
    '<p:seq concurrent="1" nextAc="seek"><p:cTn id="2" dur="indefinite" nodeType="mainSeq"><p:childTnLst>' +
    `${sequence}</p:childTnLst></p:cTn>` +
    '<p:prevCondLst><p:cond evt="onPrev" delay="0"><p:tgtEl><p:sldTgt/></p:tgtEl></p:cond></p:prevCondLst>' +
    '<p:nextCondLst><p:cond evt="onNext" delay="0"><p:tgtEl><p:sldTgt/></p:tgtEl></p:cond></p:nextCondLst></p:seq>' +
    `${narration === null ? '' : narrated(narration, ids)}</p:childTnLst></p:cTn></p:par></p:tnLst></p:timing>`
  )
}
