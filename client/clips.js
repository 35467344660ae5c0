// The clips of a mirror: on this device only, of one club, for as many days as the club says.
import { openDB } from 'idb'

const database = () =>
  openDB('gruppo-mirror', 1, { upgrade: (db) => void db.createObjectStore('clips', { keyPath: 'id' }) })

// clipsOf are a club's; those whose days are over, and those of another club, are wiped.
export async function clipsOf(club, now = Date.now()) {
  if (!club) return [] // a page that was kept before it knew its club wipes nobody's
  const db = await database()
  const all = await db.getAll('clips')
  for (const c of all) if (c.until <= now || c.club !== club) await db.delete('clips', c.id)
  db.close()
  return all.filter((c) => c.until > now && c.club === club).sort((a, b) => b.at - a.at)
}

export async function keepClip(clip) {
  const db = await database()
  await db.put('clips', clip)
  db.close()
}

export async function wipeClip(id) {
  const db = await database()
  await db.delete('clips', id)
  db.close()
}

// clipTime names a clip by when it was.
export const clipTime = (at, timeZone) =>
  new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', timeZone })
