// A few words and figures that the parts of the hall's page share.

export const less = ['faults', 'time', 'tries'] // measures where less is better
export const foot = 0.3048 // metres
export const beside = 100 // blocks beside the stations are numbered from here
export const gone = ['absent', 'away', 'left']
export const wasThere = (p) => !gone.includes(p.said) || p.said === 'left'
export const dayOf = (date) =>
  new Date(date + 'T12:00Z').toLocaleDateString('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' })
export const first = (name) => name.split(' ')[0]
// called is how a player is called in the hall: so short that they are still told from the others.
export const called = (player) => player?.called || first(player?.name || '')
