package shop_test

import (
	"encoding/json"
	"maps"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/shop"
	"brackmoor/docs/schema"
)

type node = map[string]any

// named are the fields of a struct as JSON names them, with their types; those of embedded
// structs are its own.
func named(t reflect.Type) map[string]reflect.StructField {
	fields := map[string]reflect.StructField{}
	for _, f := range reflect.VisibleFields(t) {
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if name != "" && name != "-" {
			fields[name] = f
		}
	}
	return fields
}

// The schema of the open format has the fields of the Go types, at every depth, and takes the
// same words in each.
func TestTheSchemaIsTheTypes(t *testing.T) {
	var root node
	require.NoError(t, json.Unmarshal(schema.Shops, &root))
	var profile node
	require.NoError(t, json.Unmarshal(schema.Profile, &profile))
	root["$defs"].(node)["profile"] = profile // which it refers to
	resolve := func(n node) node {
		for {
			ref, ok := n["$ref"].(string)
			if !ok {
				return n
			}
			at := any(root)
			for part := range strings.SplitSeq(strings.TrimPrefix(ref, "#/"), "/") {
				at = at.(node)[part]
			}
			n = at.(node)
		}
	}
	looked := 0
	var look func(place string, of reflect.Type, n node)
	look = func(place string, of reflect.Type, n node) {
		n = resolve(n)
		for of.Kind() == reflect.Pointer {
			of = of.Elem()
		}
		switch of.Kind() {
		case reflect.Slice, reflect.Array:
			if items, ok := n["items"].(node); ok {
				look(place+"[]", of.Elem(), items)
			}
		case reflect.Map:
			if more, ok := n["additionalProperties"].(node); ok {
				look(place+".*", of.Elem(), more)
			}
		case reflect.Struct:
			properties, ok := n["properties"].(node)
			if !ok {
				return
			}
			looked++
			fields := named(of)
			assert.ElementsMatch(t, slices.Collect(maps.Keys(fields)), slices.Collect(maps.Keys(properties)), place)
			for name, p := range properties {
				field := fields[name]
				if words, ok := field.Tag.Lookup("enum"); ok {
					assert.ElementsMatch(t, strings.Split(words, ","), resolve(p.(node))["enum"], place+"."+name)
				}
				if field.Type != nil {
					look(place+"."+name, field.Type, p.(node))
				}
			}
		}
	}
	look("$", reflect.TypeFor[shop.File](), root)
	assert.Greater(t, looked, 10)
	most := func(of node, list string) any { return of["properties"].(node)[list].(node)["maxItems"] }
	assert.EqualValues(t, shop.MostShops, most(root, "shops"))
	assert.EqualValues(t, shop.MostMachines, most(root["$defs"].(node)["shop"].(node), "machines"))
	assert.EqualValues(t, shop.MostMotors, most(root["$defs"].(node)["machine"].(node), "motors"))
}
