package load

import (
	"testing"
	"time"
)

// By hand: 20 minutes at one place at the drill's own 6 a minute are 120 tries; two rounds of 6 min at 2 places are 24
// minutes more.
func TestAPaceIsLearnedFromWhatWasCounted(t *testing.T) {
	round := Round{Time: 6 * time.Minute, AtOnce: 2, Players: 4, Counted: 4, Tries: 48} // 4 a minute at a place
	if pace, n := Learned(6, nil); pace != 6 || n != 0 {
		t.Errorf("with nothing counted: %v, %d", pace, n)
	}
	if pace, n := Learned(6, []Round{round, round}); pace != 4.9 || n != 2 { // (120 + 96) / (20 + 24) = 4.909
		t.Errorf("two rounds: %v, %d", pace, n)
	}
	half := round
	half.Counted, half.Tries = 2, 24 // half of them stand for all
	if pace, n := Learned(6, []Round{half, half}); pace != 4.9 || n != 2 {
		t.Errorf("half counted: %v, %d", pace, n)
	}
	few, wild, none := round, round, round
	few.Counted, wild.Tries, none.Time = 1, 4800, 0
	if pace, n := Learned(6, []Round{few, wild, none}); pace != 6 || n != 0 {
		t.Errorf("what says nothing was taken: %v, %d", pace, n)
	}
}
