package quantity

import (
	"reflect"
	"sync"
)

// Told is a copy of an answer in which what is said to a person, the strings of fields with the tag told:"figures",
// is as the reader reads it. What a person typed, names, and what is sent back have no such tag and stay as they are.
// Nothing of v is changed; what holds no such field is not copied.
func (r Reader) Told(v any) any {
	if v == nil || r.Beside == "" && r.Mark == "" || !tells(reflect.TypeOf(v)) {
		return v
	}
	return r.told(reflect.ValueOf(v)).Interface()
}

func (r Reader) told(v reflect.Value) reflect.Value {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if v.IsNil() || !tells(v.Elem().Type()) {
			return v
		}
		inner := r.told(v.Elem())
		if v.Kind() == reflect.Interface {
			return inner
		}
		c := reflect.New(v.Type().Elem())
		c.Elem().Set(inner)
		return c
	case reflect.Slice:
		if v.IsNil() {
			return v
		}
		c := reflect.MakeSlice(v.Type(), v.Len(), v.Len())
		for i := range v.Len() {
			c.Index(i).Set(r.told(v.Index(i)))
		}
		return c
	case reflect.Array:
		c := reflect.New(v.Type()).Elem()
		for i := range v.Len() {
			c.Index(i).Set(r.told(v.Index(i)))
		}
		return c
	case reflect.Map:
		if v.IsNil() {
			return v
		}
		c := reflect.MakeMapWithSize(v.Type(), v.Len())
		for at := v.MapRange(); at.Next(); {
			c.SetMapIndex(at.Key(), r.told(at.Value()))
		}
		return c
	case reflect.Struct:
		c := reflect.New(v.Type()).Elem()
		c.Set(v)
		for i := range v.NumField() {
			field := v.Type().Field(i)
			switch {
			case !field.IsExported():
			case field.Tag.Get("told") == "figures":
				c.Field(i).Set(r.saying(v.Field(i)))
			case tells(field.Type):
				c.Field(i).Set(r.told(v.Field(i)))
			}
		}
		return c
	}
	return v
}

// saying is a marked string, or a list or pointer of such, as the reader reads it.
func (r Reader) saying(v reflect.Value) reflect.Value {
	switch v.Kind() {
	case reflect.String:
		return reflect.ValueOf(r.Say(v.String())).Convert(v.Type())
	case reflect.Slice, reflect.Array:
		c := reflect.New(v.Type()).Elem()
		if v.Kind() == reflect.Slice && !v.IsNil() {
			c.Set(reflect.MakeSlice(v.Type(), v.Len(), v.Len()))
		}
		for i := range v.Len() {
			c.Index(i).Set(r.saying(v.Index(i)))
		}
		return c
	case reflect.Pointer:
		if !v.IsNil() {
			c := reflect.New(v.Type().Elem())
			c.Elem().Set(r.saying(v.Elem()))
			return c
		}
	}
	return v
}

// telling remembers of each type whether anything in it is told.
var telling sync.Map

// tells says whether a value of a type may hold something that is told.
func tells(t reflect.Type) bool {
	if known, ok := telling.Load(t); ok {
		return known.(bool)
	}
	found := finds(t, map[reflect.Type]bool{})
	telling.Store(t, found)
	return found
}

// finds looks through a type that may hold itself.
func finds(t reflect.Type, seen map[reflect.Type]bool) bool {
	if seen[t] {
		return false
	}
	seen[t] = true
	switch t.Kind() {
	case reflect.Interface:
		return true
	case reflect.Pointer, reflect.Slice, reflect.Array, reflect.Map:
		return finds(t.Elem(), seen)
	case reflect.Struct:
		for i := range t.NumField() {
			f := t.Field(i)
			if f.IsExported() && (f.Tag.Get("told") != "" || finds(f.Type, seen)) {
				return true
			}
		}
	}
	return false
}
