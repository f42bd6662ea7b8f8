package plan_test

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"kirdu/core/plan"
)

// Each verb has one descriptor, and it has just the keys that the schema has for
// it.
func TestVerbsAreThoseOfTheSchema(t *testing.T) {
	require.Len(t, plan.Verbs(), 22)
	data, err := os.ReadFile("../../docs/plan.schema.json")
	require.NoError(t, err)
	var schema struct {
		Defs map[string]json.RawMessage `json:"$defs"`
	}
	require.NoError(t, json.Unmarshal(data, &schema))
	keysOf := map[string]map[string]json.RawMessage{}
	var walk func(raw json.RawMessage)
	walk = func(raw json.RawMessage) {
		var list []json.RawMessage
		if json.Unmarshal(raw, &list) == nil {
			for _, one := range list {
				walk(one)
			}
			return
		}
		var node map[string]json.RawMessage
		if json.Unmarshal(raw, &node) != nil {
			return
		}
		var properties map[string]json.RawMessage
		if json.Unmarshal(node["properties"], &properties) == nil {
			var do struct{ Const string }
			if json.Unmarshal(properties["do"], &do) == nil && do.Const != "" {
				keysOf[do.Const] = properties
			}
		}
		for _, below := range node {
			walk(below)
		}
	}
	for _, definition := range schema.Defs {
		walk(definition)
	}
	for _, verb := range plan.Verbs() {
		properties := keysOf[string(verb)]
		require.NotEmpty(t, properties, "the schema has no %s", verb)
		var keys []string
		for key := range properties {
			if key != "do" && key != "note" && key != "sign" {
				keys = append(keys, key)
			}
		}
		require.ElementsMatch(t, keys, verb.Descriptor().Keys(), verb)
	}
}

// What a descriptor says of a verb holds together.
func TestDescriptorsHoldTogether(t *testing.T) {
	for _, verb := range plan.Verbs() {
		d := verb.Descriptor()
		require.Equal(t, verb, d.Verb)
		require.Equal(t, d.Preparation, verb.IsPreparation())
		require.Equal(t, d.Preparation, !d.Has("pot"), "%s: a preparation has no pot", verb)
		require.Equal(t, d.Preparation, d.Earlier > 0, "%s: only preparations move", verb)
		require.False(t, d.AtOnce && (d.Closed || d.Burner || d.Parts), verb)
		require.False(t, d.Parts && d.Closed, "%s: nothing can be put in the middle of what is closed", verb)
		if d.Parts {
			require.True(t, d.Has("minutes") || d.Has("until"), "%s has a time to be parted", verb)
		}
	}
	require.Empty(t, plan.Verb("juggle").Descriptor().Keys())
}
