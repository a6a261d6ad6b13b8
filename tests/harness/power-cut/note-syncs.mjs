/*
 * Loaded into the product's processes before anything else: notes which files and folders they have had written to the disk itself, and
 * what those held then. What was not noted may be gone after a power cut (cut.ts). Files that were noted are linked aside, so that one
 * that was removed may come back.
 *
 * AISLE_SYNCS names the file of notes; AISLE_SYNCS_ASIDE the folder beside the store that links go to.
 */
import { appendFileSync, existsSync, fstatSync, linkSync, lstatSync, promises, readdirSync, readlinkSync } from 'node:fs'
import { join } from 'node:path'
import process from 'node:process'

const notes = process.env.AISLE_SYNCS
const aside = process.env.AISLE_SYNCS_ASIDE

/** @returns what a file or folder holds now */
function lookAt(fd, path) {
  const stat = fstatSync(fd)
  if (!stat.isDirectory()) return { ino: stat.ino, size: stat.size }
  const names = {}
  for (const name of readdirSync(path)) {
    try {
      names[name] = lstatSync(join(path, name)).ino
    } catch {
      // It went while it was looked at.
    }
  }
  return { ino: stat.ino, names }
}

function keepAside(path, { ino, names }) {
  const link = join(aside, String(ino))
  if (names !== undefined || existsSync(link)) return
  try {
    linkSync(path, link)
  } catch {
    // Another process linked it, or it went.
  }
}

const file = await promises.open(process.execPath)
const { prototype } = file.constructor
const { sync } = prototype
prototype.sync = async function notedSync() {
  const path = readlinkSync(`/proc/self/fd/${this.fd}`)
  const held = lookAt(this.fd, path)
  await sync.call(this)
  keepAside(path, held)
  appendFileSync(notes, `${JSON.stringify(held)}\n`)
}
await file.close()
