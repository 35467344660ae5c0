package shell

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
)

// Shows notes what the form's page was filled from.
func (f *Form) Shows(records ...any) { f.Values.Set("shown", stamp(records)) }

// Since says at the form's head when what it was filled from is not what is there now: somebody changed it meanwhile,
// and would have that taken back. What was typed stays, and is kept when it is sent once more.
func (f *Form) Since(what string, records ...any) {
	was, now := f.Get("shown"), stamp(records)
	if f.Values.Set("shown", now); was != "" && was != now {
		f.Wrong("shown", "Somebody changed %s since you opened this page. What you typed is still here: look at what is there "+
			"now, and keep it again if it holds.", what)
	}
}

// stamp tells records apart.
func stamp(records []any) string {
	text, err := json.Marshal(records)
	if err != nil {
		return "" // nothing to compare with
	}
	sum := sha256.Sum256(text)
	return hex.EncodeToString(sum[:8])
}
