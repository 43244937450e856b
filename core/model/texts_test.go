package model_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/model"
	"ubiquant/core/texts"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
)

// The demo says all of its texts, each under one key, and said as they are written they are what
// they were.
func TestTheDemoSaysTheSameInItsOwnWords(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	cat := model.NewCatalog(testkit.Sorrel(t), w)
	list, _ := texts.List(w.Texts(cat))
	require.Greater(t, len(list), 300)
	keys := map[string]bool{}
	w.Languages = []texts.Language{{ID: "de"}, {ID: "fr", Written: true}}
	for _, x := range list {
		assert.False(t, keys[x.Key], "%s stands twice", x.Key)
		keys[x.Key] = true
		w.Translations = append(w.Translations, texts.Said{Language: "de", Key: x.Key, Is: x.Message, Of: x.Message})
	}
	now, problems := w.In("de", cat)
	assert.Empty(t, problems)
	again, _ := texts.List(now.Texts(cat))
	require.Len(t, again, len(list))
	for i := range list {
		assert.Equal(t, list[i].Message, again[i].Message, list[i].Key)
	}
	same, _ := w.In("fr", cat)
	assert.Same(t, w, same, "in the language that they are written in nothing changes")
	assert.Equal(t, "fr", w.Written())
}
