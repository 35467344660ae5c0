package shell

import "slices"

// Action is something a member may do or not.
type Action string

const (
	Anyone        Action = "anyone" // no sign-in
	OwnAccount    Action = "own account"
	SeeToday      Action = "see today"
	SeeRoster     Action = "see the roster"
	ChangeRoster  Action = "change the roster"
	SeeShelf      Action = "see the drill shelf"
	ChangeShelf   Action = "change the drill shelf"
	SeeSessions   Action = "see sessions and plans"
	ChangePlan    Action = "change plans and classes"
	RunSession    Action = "be courtside" // a helper only in sessions they are on
	SeeMarks      Action = "see marks and stairs"
	StrikeMarks   Action = "strike marks out"
	EnterMarks    Action = "enter marks at the desk"
	ChangeLadder  Action = "change stages and criteria"
	Decide        Action = "decide who steps up"
	Sign          Action = "sign a decision as the second"
	PlanPlaces    Action = "plan terms and places"
	LinkGuardians Action = "make and withdraw links for guardians"
	UndoOwn       Action = "take back a change"
	ManagePeople  Action = "bring coaches and helpers in"
)

// may is the one table that says who may do what.
var may = map[Action][]string{
	OwnAccount:    {"lead", "coach", "helper"},
	SeeToday:      {"lead", "coach", "helper"},
	RunSession:    {"lead", "coach", "helper"},
	SeeRoster:     {"lead", "coach"},
	ChangeRoster:  {"lead", "coach"},
	SeeShelf:      {"lead", "coach"},
	ChangeShelf:   {"lead", "coach"},
	SeeSessions:   {"lead", "coach"},
	ChangePlan:    {"lead", "coach"},
	SeeMarks:      {"lead", "coach"},
	StrikeMarks:   {"lead", "coach"},
	EnterMarks:    {"lead", "coach"},
	UndoOwn:       {"lead", "coach"},
	ChangeLadder:  {"lead"},
	Decide:        {"lead"},
	Sign:          {"lead", "coach"},
	PlanPlaces:    {"lead"},
	LinkGuardians: {"lead"},
	ManagePeople:  {"lead"},
}

// May reports whether a role may do it.
func May(role string, a Action) bool { return a == Anyone || slices.Contains(may[a], role) }
