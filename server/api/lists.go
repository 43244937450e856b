package api

import "reflect"

// withLists gives every list of an answer that is none as one without items: what the
// description of the API says is a list is one, and windows need not ask. It looks at the
// answer itself and no further, for what stands in it may belong to others.
func withLists(out any) {
	v := reflect.ValueOf(out).Elem()
	if v.Kind() != reflect.Struct {
		return
	}
	for i := range v.NumField() {
		f := v.Field(i)
		if f.Kind() == reflect.Slice && f.IsNil() && f.CanSet() && f.Type().Elem().Kind() != reflect.Uint8 {
			f.Set(reflect.MakeSlice(f.Type(), 0, 0))
		}
	}
}
