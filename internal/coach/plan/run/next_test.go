package run_test

import (
	"encoding/json"
	"os"
	"testing"
	"time"

	"gruppo/internal/coach/plan/run"
)

// Two evenings, moment by moment; the phone (next.js) is held to the same.
func TestWhatNowOfRecordedEvenings(t *testing.T) {
	var evenings []struct {
		Evening string
		Moments []struct {
			run.Moment
			At                string
			Left              int64
			Says, Label, Does string
		}
	}
	b, err := os.ReadFile("testdata/next.json")
	if err == nil {
		err = json.Unmarshal(b, &evenings)
	}
	if err != nil || len(evenings) < 2 {
		t.Fatal(err, len(evenings))
	}
	reasons := map[string]bool{}
	for _, e := range evenings {
		for _, m := range e.Moments {
			m.Moment.Left = time.Duration(m.Left) * time.Millisecond
			got, ok := run.Next(m.Moment)
			if got.Says != m.Says || got.Label != m.Label || got.Does != m.Does || ok != (m.Says != "") {
				t.Errorf("%s, %s: %+v", e.Evening, m.At, got)
			}
			if ok && got.Why == "" {
				t.Errorf("%s, %s: no reason", e.Evening, m.At)
			}
			reasons[got.Why] = true
		}
	}
	if len(reasons) != 10 { // nine reasons, and the moments that need none
		t.Errorf("%d reasons are met: each must be, once at least", len(reasons))
	}
}
