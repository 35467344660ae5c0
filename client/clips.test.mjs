// The clips of a mirror, in a database like the browser's.
import 'fake-indexeddb/auto'
import assert from 'node:assert/strict'
import { test } from 'node:test'
import { clipsOf, clipTime, keepClip, wipeClip } from './clips.js'

const day = 86400000,
  now = Date.UTC(2026, 10, 24, 18)
const clip = (id, club, at, days) => keepClip({ id, club, at: now + at, until: now + days * day })

test('clips are a club’s, the newest first, for as long as it says; a phone that changes clubs keeps none of the other', async () => {
  await clip('old', 'a', -9 * day, -1)
  await clip('first', 'a', -day, 6)
  await clip('second', 'a', -60000, 7)
  await clip('theirs', 'b', -60000, 7)
  const ids = async (club, at = now) => (await clipsOf(club, at)).map((c) => c.id)
  assert.deepEqual(await ids(''), []) // a page from before it knew its club sees none, and wipes none
  assert.deepEqual(await ids('a'), ['second', 'first'])
  assert.deepEqual(await ids('b'), []) // wiped when the other club looked
  await clip('first', 'a', -day, 6)
  await clip('second', 'a', -60000, 7)
  await wipeClip('first')
  assert.deepEqual(await ids('a'), ['second'])
  assert.deepEqual(await ids('a', now + 7 * day), []) // its last day is over
})

test('a clip is named by the time in the club’s zone, wherever the phone is', () => {
  assert.equal(clipTime(now, 'Pacific/Auckland'), '07:00')
  assert.equal(clipTime(now, 'America/St_Johns'), '14:30')
})
