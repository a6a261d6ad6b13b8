/** Script that finds Review's own player in a page, so that times are exact; it is left in `player`. */
export const FIND_PLAYER = `
  const find = (node) => {
    if (!node) return null
    const own = node.component
    if (own?.exposed?.player) return own.exposed.player
    for (const child of [own?.subTree, ...(Array.isArray(node.children) ? node.children : []), node.suspense?.activeBranch]) {
      const found = child && typeof child === 'object' ? find(child) : null
      if (found) return found
    }
    return null
  }
  const player = find(document.querySelector('#__nuxt')._vnode)
  const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms))
`
