package shell

import "reflect"

// Lists makes every missing list in what v points to an empty one, so that a page's script never meets null where it
// goes through a list.
func Lists(v any) { lists(reflect.ValueOf(v).Elem()) }

func lists(v reflect.Value) {
	switch v.Kind() {
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Field(i).CanSet() {
				lists(v.Field(i))
			}
		}
	case reflect.Slice:
		if v.IsNil() {
			v.Set(reflect.MakeSlice(v.Type(), 0, 0))
		}
		for i := range v.Len() {
			lists(v.Index(i))
		}
	case reflect.Pointer:
		if !v.IsNil() {
			lists(v.Elem())
		}
	}
}
