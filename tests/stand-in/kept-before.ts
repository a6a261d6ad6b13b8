import type { KeptBefore } from './kept-take'

const answered = <Result>(request: IDBRequest<Result>): Promise<Result> =>
  new Promise((resolve, reject) => {
    request.onsuccess = () => {
      resolve(request.result)
    }
    request.onerror = () => {
      reject(new Error(String(request.error)))
    }
  })

function withOldStores(opening: IDBOpenDBRequest): IDBOpenDBRequest {
  opening.onupgradeneeded = () => {
    const db = opening.result
    db.createObjectStore('takes', { keyPath: 'id' }).createIndex('talk', 'talk')
    db.createObjectStore('stretches', { keyPath: 'id' }).createIndex('take', 'take')
    db.createObjectStore('faces', { keyPath: 'stretch' })
    for (const name of ['slices', 'cues', 'prints', 'tails', 'aside'])
      db.createObjectStore(name, { keyPath: ['stretch', 'n'] }).createIndex('stretch', 'stretch')
  }
  return opening
}

async function keepAsBefore({ media, take, stretch }: KeptBefore): Promise<void> {
  const bytes = Uint8Array.from(atob(media), (letter) => letter.charCodeAt(0))
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes))
  const digest = Array.from(hash, (byte) => byte.toString(16).padStart(2, '0')).join('')
  await answered(indexedDB.deleteDatabase('aisle-takes'))
  const db = await answered(withOldStores(indexedDB.open('aisle-takes', 5)))
  const work = db.transaction(['takes', 'stretches', 'slices'], 'readwrite')
  await Promise.all([
    answered(work.objectStore('takes').put(take)),
    answered(work.objectStore('stretches').put({ ...stretch, take: take.id, closing: { slices: 1, cues: 0, length: 3000 } })),
    answered(work.objectStore('slices').put({ stretch: stretch.id, n: 0, bytes: bytes.buffer, digest })),
  ])
  db.close()
}

Object.assign(globalThis, { keepAsBefore })
