package shell

import (
	"net/url"
	"slices"
	"strings"
	"testing"

	"gruppo/internal/coach/plan"
)

func TestPasswords(t *testing.T) {
	hash := HashPassword("a boat in the rain")
	if !strings.HasPrefix(hash, "$argon2id$v=19$m=65536,t=3,p=2$") { // RFC 9106, section 4, second recommended option, with 2 lanes
		t.Errorf("hash %q", hash)
	}
	if !PasswordFits("a boat in the rain", hash) || PasswordFits("a boat in the Rain", hash) || PasswordFits("", hash) {
		t.Error("the wrong password fits, or the right one does not")
	}
	if HashPassword("a boat in the rain") == hash {
		t.Error("two hashes of one password are alike: no salt")
	}
	for _, broken := range []string{"", "x", "$argon2id$v=19$m=1$a$b", strings.Replace(hash, "v=19", "v=18", 1), hash[:len(hash)-60]} {
		if PasswordFits("a boat in the rain", broken) {
			t.Errorf("a password fits %q", broken)
		}
	}
}

func TestFormsSayWhatIsWrongOnce(t *testing.T) {
	f := &Form{Values: url.Values{"n": {"12 players"}, "x": {"7,5"}, "nan": {"NaN"}, "lines": {" a \n\n b\n"}, "words": {"x, ,y"}, "long": {"ééééé"}}, Errors: map[string]string{}}
	if f.Int("n", 1, 20, "Players"); !strings.Contains(f.Errors["n"], "from 1 to 20") {
		t.Errorf("12 players: %q", f.Errors["n"])
	}
	if x := f.Float("x", 0, 10, "Length"); x != 7.5 || f.Errors["x"] != "" {
		t.Errorf("a comma for the point: %v %q", x, f.Errors["x"])
	}
	if f.Float("nan", 0, 10, "Length"); f.Errors["nan"] == "" {
		t.Error("not a number was taken for one")
	}
	if l := f.Lines("lines", 5); !slices.Equal(l, []string{"a", "b"}) {
		t.Errorf("lines %q", l)
	}
	if w := f.Commas("words"); !slices.Equal(w, []string{"x", "y"}) {
		t.Errorf("words %q", w)
	}
	if f.Text("long", 5, ""); f.Errors["long"] != "" {
		t.Error("five letters counted as more than five")
	}
	f.Wrong("n", "something else")
	if strings.Contains(f.Errors["n"], "else") {
		t.Error("the second word about a field replaced the first")
	}
}

func TestEveryShapeHasAnOutlineOfItsOwn(t *testing.T) {
	seen := map[string]string{}
	for _, s := range plan.Shapes {
		path := ShapePath(s.Key)
		if path == "" || seen[path] != "" {
			t.Errorf("%s has the outline %q, as %q", s.Key, path, seen[path])
		}
		seen[path] = s.Key
	}
	if len(plan.Shapes) < plan.Most {
		t.Error("more groups can be made than there are shapes")
	}
}

func TestInitialsInAnyScript(t *testing.T) {
	for name, want := range map[string]string{"Aino Laine": "AL", "Zoë": "Z", "مريم السيد": "ما", "  ": "?", "Jo van der Berg": "JB", "山田 太郎": "山太"} {
		if got := Initials(name); got != want {
			t.Errorf("%q: %q, want %q", name, got, want)
		}
	}
}

func TestWhoMayDoWhat(t *testing.T) {
	for a, roles := range may {
		if !slices.Contains(roles, "lead") {
			t.Errorf("the lead may not %s", a)
		}
		if slices.Contains(roles, "helper") && !slices.Contains([]Action{OwnAccount, SeeToday, RunSession}, a) {
			t.Errorf("a helper may %s", a)
		}
	}
	if May("", SeeToday) || May("guardian", SeeToday) || !May("", Anyone) {
		t.Error("somebody without a role gets in, or the door is shut to all")
	}
}
