package courtside

import (
	"net/http"

	"gruppo/internal/web/shell"
)

// mirrorView is the state with what the club allows of pictures.
type mirrorView struct {
	state
	ClipDays int `json:"clipDays"` // for how many days a clip stays on its device; 0: none is kept
}

// mirror is the page of a device at the side that shows what its camera saw so many seconds ago. The program gets
// nothing of it but the marks that a coach keeps.
func mirror(c *shell.Ctx) error {
	st, err := read(c)
	if err != nil {
		return err
	}
	return c.Bare(pages, http.StatusOK, "mirror.html", "Mirror", mirrorView{st, st.ClipDays})
}
