/** What an effect of a made deck does, in the terms of PresentationML (ISO/IEC 29500-1, 19.5). */
export interface MadeEffect {
  /** Of the shape that it is about. */
  readonly shape: number
  /** First and last paragraph, counted from 0; left out: the whole shape. */
  readonly paragraphs?: readonly [number, number]
  readonly does: 'entrance' | 'exit' | 'emphasis' | 'path'
  /** `appear` shows at once; `fade` and `fly` come in. */
  readonly how?: 'appear' | 'fade' | 'fly'
  /** Of a path: as the format writes it, in fractions of the slide. */
  readonly path?: string
  readonly begins: 'click' | 'with' | 'after'
}

const PRESETS = { appear: 1, fade: 10, fly: 2 } as const
const CLASSES = { entrance: 'entr', exit: 'exit', emphasis: 'emph', path: 'path' } as const
const NODES = { click: 'clickEffect', with: 'withEffect', after: 'afterEffect' } as const

/** Writes the timing of a slide whose effects come in this order. */
export function timingOf(effects: readonly MadeEffect[]): string {
  let id = 2
  const next = (): string => String((id += 1))
  const target = ({ shape, paragraphs }: MadeEffect): string => {
    const inside = paragraphs === undefined ? '' : `<p:txEl><p:pRg st="${String(paragraphs[0])}" end="${String(paragraphs[1])}"/></p:txEl>`
    return `<p:tgtEl><p:spTgt spid="${String(shape)}">${inside}</p:spTgt></p:tgtEl>`
  }
  const behaviour = (effect: MadeEffect): string => {
    const common = `<p:cTn id="${next()}" dur="500" fill="hold"/>${target(effect)}`
    const set = (value: string): string =>
      `<p:set><p:cBhvr><p:cTn id="${next()}" dur="1" fill="hold"><p:stCondLst><p:cond delay="0"/></p:stCondLst></p:cTn>` +
      target(effect) +
      `<p:attrNameLst><p:attrName>style.visibility</p:attrName></p:attrNameLst></p:cBhvr><p:to><p:strVal val="${value}"/></p:to></p:set>`
    switch (effect.does) {
      case 'entrance':
        return (
          set('visible') +
          (effect.how === 'fade' ? `<p:animEffect transition="in" filter="fade"><p:cBhvr>${common}</p:cBhvr></p:animEffect>` : '')
        )
      case 'exit':
        return set('hidden')
      case 'emphasis':
        return `<p:animScale><p:cBhvr>${common}</p:cBhvr><p:by x="150000" y="150000"/></p:animScale>`
      case 'path':
        return (
          `<p:animMotion origin="layout" path="${effect.path ?? ''}" pathEditMode="relative"><p:cBhvr>${common}</p:cBhvr>` +
          '</p:animMotion>'
        )
    }
  }
  const effectOf = (effect: MadeEffect): string =>
    `<p:par><p:cTn id="${next()}" presetID="${String(PRESETS[effect.how ?? 'appear'])}" presetClass="${CLASSES[effect.does]}" ` +
    `presetSubtype="0" fill="hold" grpId="0" nodeType="${NODES[effect.begins]}"><p:stCondLst><p:cond delay="0"/></p:stCondLst>` +
    `<p:childTnLst>${behaviour(effect)}</p:childTnLst></p:cTn></p:par>`
  const groups: MadeEffect[][] = []
  for (const effect of effects) {
    if (effect.begins === 'click' || groups.length === 0) groups.push([effect])
    else groups.at(-1)?.push(effect)
  }
  const clicks = groups.map((group) => {
    const automatic = group[0]?.begins !== 'click'
    const condition = automatic
      ? '<p:cond delay="indefinite"/><p:cond evt="onBegin" delay="0"><p:tn val="2"/></p:cond>'
      : '<p:cond delay="indefinite"/>'
    const effectsIn = group.map(effectOf).join('')
    return (
      `<p:par><p:cTn id="${next()}" fill="hold"><p:stCondLst>${condition}</p:stCondLst><p:childTnLst>` +
      `<p:par><p:cTn id="${next()}" fill="hold"><p:stCondLst><p:cond delay="0"/></p:stCondLst><p:childTnLst>${effectsIn}` +
      `</p:childTnLst></p:cTn></p:par></p:childTnLst></p:cTn></p:par>`
    )
  })
  return (
    '<p:timing><p:tnLst><p:par><p:cTn id="1" dur="indefinite" restart="never" nodeType="tmRoot"><p:childTnLst>' +
    '<p:seq concurrent="1" nextAc="seek"><p:cTn id="2" dur="indefinite" nodeType="mainSeq"><p:childTnLst>' +
    `${clicks.join('')}</p:childTnLst></p:cTn>` +
    '<p:prevCondLst><p:cond evt="onPrev" delay="0"><p:tgtEl><p:sldTgt/></p:tgtEl></p:cond></p:prevCondLst>' +
    '<p:nextCondLst><p:cond evt="onNext" delay="0"><p:tgtEl><p:sldTgt/></p:tgtEl></p:cond></p:nextCondLst></p:seq>' +
    '</p:childTnLst></p:cTn></p:par></p:tnLst></p:timing>'
  )
}
