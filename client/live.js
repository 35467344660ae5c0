// What a page hears of changes elsewhere while an answer is on its way to it.

// newest is the newest version that was spoken of; to be told to read again is newer than any.
export const newest = (was, what, version) => Math.max(was, what === 'again' ? Infinity : Number(version) || 0)
