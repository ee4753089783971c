package site

import (
	"reflect"
	"strings"
)

// Names are the JSON names of a struct's fields, those of what it embeds among them.
func Names(of any) (list []string) {
	return names(reflect.TypeOf(of))
}

func names(of reflect.Type) (list []string) {
	for i := range of.NumField() {
		f := of.Field(i)
		if f.Anonymous {
			list = append(list, names(f.Type)...)
			continue
		}
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		list = append(list, name)
	}
	return list
}
