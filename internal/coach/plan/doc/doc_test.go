package doc_test

import (
	"reflect"
	"testing"

	"gruppo/internal/coach/floor"
	"gruppo/internal/coach/plan/doc"
	"gruppo/internal/coach/plan/plantest"
	"gruppo/internal/coach/rotate"
)

func TestAPlanFromAFileIsHeldToItsLimits(t *testing.T) {
	good := plantest.Tuesday(t).Plan
	if err := good.Check(); err != nil {
		t.Fatal(err)
	}
	for i, spoil := range []func(*doc.Plan){
		func(p *doc.Plan) { p.Deals[0].Way = "x" }, func(p *doc.Plan) { p.Deals[0].Groups = 99 }, func(p *doc.Plan) { p.First().Work = 0 }, func(p *doc.Plan) { p.Blocks[0].Minutes = 0 }, func(p *doc.Plan) { p.Blocks[0].Kind = "nap" },
		func(p *doc.Plan) { p.Deals[0].Players = [][]string{{"a"}, {"a"}} }, func(p *doc.Plan) { p.First().Stations[0].Spot = &floor.Spot{X: 1, Y: 1, Length: 0, Width: 3} }, func(p *doc.Plan) { p.First().Stations = make([]doc.Station, 9) },
		func(p *doc.Plan) { p.Blocks[0].Game = &rotate.Game{Areas: -1} }, func(p *doc.Plan) { p.Blocks[0].Scores = []doc.Made{{Pairs: [][2]int{{-7, 0}}}} },
	} {
		p := good.Clone()
		spoil(&p)
		if p.Check() == nil {
			t.Errorf("case %d is taken", i)
		}
	}
}

// fill gives everything in v something, so that nothing of it is empty.
func fill(v reflect.Value) {
	switch v.Kind() {
	case reflect.Pointer:
		v.Set(reflect.New(v.Type().Elem()))
		fill(v.Elem())
	case reflect.Slice:
		v.Set(reflect.MakeSlice(v.Type(), 1, 1))
		fill(v.Index(0))
	case reflect.Map:
		k, x := reflect.New(v.Type().Key()).Elem(), reflect.New(v.Type().Elem()).Elem()
		fill(x)
		v.Set(reflect.MakeMap(v.Type()))
		v.SetMapIndex(k, x)
	case reflect.Struct:
		for i := range v.NumField() {
			fill(v.Field(i))
		}
	}
}

// shared names what two values that were filled hold in common.
func shared(at string, a, b reflect.Value) (out []string) {
	if k := a.Kind(); (k == reflect.Pointer || k == reflect.Slice || k == reflect.Map) && a.Pointer() == b.Pointer() {
		return []string{at}
	}
	switch a.Kind() {
	case reflect.Pointer:
		return shared(at, a.Elem(), b.Elem())
	case reflect.Slice:
		return shared(at+"[0]", a.Index(0), b.Index(0))
	case reflect.Map:
		k := reflect.Zero(a.Type().Key())
		return shared(at+"[k]", a.MapIndex(k), b.MapIndex(k))
	case reflect.Struct:
		for i := range a.NumField() {
			out = append(out, shared(at+"."+a.Type().Field(i).Name, a.Field(i), b.Field(i))...)
		}
	}
	return out
}

// Plans that were read lately are kept by their text: one that is changed in place must not change what is read next.
func TestACopySharesNothing(t *testing.T) {
	var p doc.Plan
	fill(reflect.ValueOf(&p).Elem())
	if s := shared("plan", reflect.ValueOf(p), reflect.ValueOf(p.Clone())); s != nil {
		t.Error("a copy shares", s)
	}
}
