package check

import "gruppo/internal/coach/plan/work"

// rules are what the check looks for. Findings of one weight are shown in this order.
var rules = []func(*checking){
	nobody,
	noDrill,
	undealt,
	noPartner,
	groups,
	tooLong,
	tooShort,
	shortChange,
	taken,
	adults,
	onTheFloor,
	kitShort,
	kitUnlisted,
	forfeits,
	eachStation,
	ledElsewhere,
	inTwoPlaces,
	rests,
	seldom,
	notBefore,
	hardInARow,
	eachBlock,
	limits,
	unseen,
	noStage,
	lookUnseen,
	unmarkable,
	neverUp,
	newerEdition,
	cannotHold,
}

// stationRules are looked at station by station.
var stationRules = []func(*checking, work.StationAt){
	leads,
	groupSize,
	targetReach,
	practice,
	turnRest,
	comesAfter,
	stationMinutes,
}

// blockRules are looked at block by block.
var blockRules = []func(*checking, work.Span){
	noTask,
	blockMinutes,
	ladderTime,
	smallRing,
	notForTwo,
	courts,
	blockLimit,
	crowd,
	gameFits,
	allOut,
	routine,
}

func eachStation(c *checking) {
	for _, s := range c.Stations {
		for _, rule := range stationRules {
			rule(c, s)
		}
	}
}

func eachBlock(c *checking) {
	for _, b := range c.Blocks {
		for _, rule := range blockRules {
			rule(c, b)
		}
	}
}
