package shell

import (
	"context"
	"net/http"
	"sync"
	"time"
)

// heavy lets large work (a list brought in, a whole plan, places, exports) through a few at a time, and one of a club,
// so that one club never starves another. The zero value is ready.
type heavy struct {
	mu    sync.Mutex
	clubs map[string]chan struct{} // of one place each; those of clubs that work or wait
	users map[string]int
	all   chan struct{}
}

const (
	heavyAtOnce = 2
	heavyWaits  = 10 * time.Second
	heavyQueue  = 4 // of one club: who works, and who waits
)

var errBusy = &Problem{
	http.StatusServiceUnavailable,
	"Something large is being worked out for your club already. Nothing was changed: try again when it is done.",
}

// enter waits for a turn of the club, then for one of all; done ends it.
func (h *heavy) enter(ctx context.Context, club string) (done func(), err error) {
	h.mu.Lock()
	if h.all == nil {
		h.all, h.clubs, h.users = make(chan struct{}, heavyAtOnce), map[string]chan struct{}{}, map[string]int{}
	}
	if h.users[club] >= heavyQueue {
		h.mu.Unlock()
		return nil, errBusy
	}
	if h.clubs[club] == nil {
		h.clubs[club] = make(chan struct{}, 1)
	}
	own := h.clubs[club]
	h.users[club]++
	h.mu.Unlock()

	leave := func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		if h.users[club]--; h.users[club] == 0 {
			delete(h.users, club)
			delete(h.clubs, club)
		}
	}
	wait, cancel := context.WithTimeout(ctx, heavyWaits)
	defer cancel()
	select {
	case own <- struct{}{}:
	case <-wait.Done():
		leave()
		return nil, errBusy
	}
	select {
	case h.all <- struct{}{}:
	case <-wait.Done():
		<-own
		leave()
		return nil, errBusy
	}
	return func() { <-h.all; <-own; leave() }, nil
}
