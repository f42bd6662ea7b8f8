package plan

import (
	"reflect"
	"testing"

	"github.com/stretchr/testify/require"
)

// fill gives every field of a value, however deep, something that is not zero.
func fill(v reflect.Value, depth int) {
	switch v.Kind() {
	case reflect.Pointer:
		if depth > 6 || !v.CanSet() {
			return
		}
		v.Set(reflect.New(v.Type().Elem()))
		fill(v.Elem(), depth+1)
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Type().Field(i).IsExported() {
				fill(v.Field(i), depth+1)
			}
		}
	case reflect.Slice:
		v.Set(reflect.MakeSlice(v.Type(), 2, 2))
		for i := range v.Len() {
			fill(v.Index(i), depth+1)
		}
	case reflect.Map:
		v.Set(reflect.MakeMap(v.Type()))
		key, value := reflect.New(v.Type().Key()).Elem(), reflect.New(v.Type().Elem()).Elem()
		fill(key, depth+1)
		fill(value, depth+1)
		v.SetMapIndex(key, value)
	case reflect.String:
		v.SetString("x")
	case reflect.Float64:
		v.SetFloat(1.5)
	case reflect.Int:
		v.SetInt(3)
	case reflect.Bool:
		v.SetBool(true)
	}
}

// shared lists where two values hold the same memory.
func shared(a, b reflect.Value, path string) (list []string) {
	switch a.Kind() {
	case reflect.Pointer:
		if a.IsNil() {
			return nil
		}
		if a.Pointer() == b.Pointer() {
			return []string{path}
		}
		return shared(a.Elem(), b.Elem(), path)
	case reflect.Struct:
		for i := range a.NumField() {
			if a.Type().Field(i).IsExported() {
				list = append(list, shared(a.Field(i), b.Field(i), path+"."+a.Type().Field(i).Name)...)
			}
		}
	case reflect.Slice:
		if a.Len() > 0 && a.Pointer() == b.Pointer() {
			return []string{path}
		}
		for i := range a.Len() {
			list = append(list, shared(a.Index(i), b.Index(i), path+"[]")...)
		}
	case reflect.Map:
		if a.Len() > 0 && a.Pointer() == b.Pointer() {
			return []string{path}
		}
		for _, key := range a.MapKeys() {
			list = append(list, shared(a.MapIndex(key), b.MapIndex(key), path+"{}")...)
		}
	}
	return list
}

func TestCloneSharesNothing(t *testing.T) {
	var p Plan
	fill(reflect.ValueOf(&p).Elem(), 0)
	c := p.Clone()
	require.Equal(t, &p, c)
	require.Empty(t, shared(reflect.ValueOf(p), reflect.ValueOf(*c), "plan"))
	require.Equal(t, &Plan{}, (&Plan{}).Clone())
}

func BenchmarkClone(b *testing.B) {
	var p Plan
	fill(reflect.ValueOf(&p).Elem(), 0)
	for b.Loop() {
		p.Clone()
	}
}
