package server

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/note"
	"juxtagram/store"
)

func TestMentions(t *testing.T) {
	members := []store.Member{{PersonID: 1, Name: "Oona Fell"}, {PersonID: 2, Name: "Tam Reddick"}, {PersonID: 3, Name: "tam reddick"}, {PersonID: 4, Name: "Oona"}, {PersonID: 5, Name: "D'Arcy  (night shift)"}, {PersonID: 6, Name: "42"}, {PersonID: 7, Name: "???"}}
	known := handles(members)
	assert.Equal(t, []string{"Oona.Fell", "Tam.Reddick.2", "tam.reddick.3", "Oona", "D.Arcy.night.shift", "person.42", "person"}, known)
	for i, h := range known {
		assert.Equal(t, []string{h}, note.Read("see @"+h+", please").Mentions, "it can be written")
		assert.Equal(t, members[i].PersonID, memberOf(members, h).PersonID)
	}
	assert.Equal(t, int64(5), memberOf(members, "d").PersonID, "a first part that one alone bears")
	assert.Nil(t, memberOf(members, "tam"), "two are called so")
	assert.Nil(t, memberOf(members, "nobody"))
}
