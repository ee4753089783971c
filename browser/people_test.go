package browser

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/server/passphrase"
)

// Two people by name: one plans, the other writes down what was read and no more. What each does stands under their own
// name, a session is ended from another, and whoever may not is told so with nothing typed lost.
func TestASecondPersonWithLessRights(t *testing.T) {
	p := open(t, "tarn-hollow.json")
	ctx := context.Background()
	cheap := passphrase.Cost{Passes: 1, KiB: 64, Threads: 1}
	p.server.stop()
	p.server.passphrase = passphrase.Hash("unused", cheap)
	p.server.start(t)
	require.NoError(t, p.server.store.AddPerson(ctx, "Ada", "plans", passphrase.Hash("ada's long passphrase", cheap)))
	require.NoError(
		t,
		p.server.store.AddPerson(ctx, "Ben", "measures", passphrase.Hash("ben's long passphrase", cheap)),
	)
	signIn := func(p *page, name, phrase string) {
		p.allow("status of 401")
		p.visit("/machines/tarn-hobber/prove")
		p.until("document.activeElement.id === 'who'")
		p.over("#who", name+"\t"+phrase+"\r")
		p.until("document.querySelector('.who')")
	}
	p.allow("status of 401")
	p.visit("/machines")
	p.until("document.querySelector('#who')")
	sound(p, "name and passphrase")
	signIn(p, "Ada", "ada's long passphrase")
	ben := p.another()
	signIn(ben, "ben", "ben's long passphrase")

	// Ben writes in the daybook, under his name whatever he types.
	ben.visit("/daybook")
	ben.press("Write a line")
	ben.over("[aria-label='What happened']", "Belt is loose\t")
	ben.press("Write it down")
	ben.shows(".lines", "Belt is loose")
	ben.shows(".lines", "Ben")
	// He changes no plate: it is told, and what he typed stays.
	ben.allow("status of 403")
	ben.visit("/machines/tarn-hobber/plate")
	ben.over(".plate input[name=rpm]", "1725\t")
	ben.shows(".saved", "Not saved")
	assert.Equal(t, "1725", eval[string](ben, "document.querySelector('.plate input[name=rpm]').value"))

	// Ada sees both, changes the plate under her name, and ends one of her own sessions.
	p.visit("/daybook")
	p.shows(".lines", "Belt is loose")
	other := p.another()
	signIn(other, "Ada", "ada's long passphrase")
	p.visit("/machines/tarn-hobber/plate")
	p.over(".plate input[name=rpm]", "1735\t")
	p.saved()
	p.click("[aria-label='History']")
	p.shows(".history", "Ada")
	p.visit("/machines")
	p.click(".who")
	p.shows(".signed-in", "here")
	sound(p, "signed in")
	p.press("End it")
	p.until("document.querySelectorAll('.signed-in li').length === 1")
	other.visit("/machines")
	other.until("document.querySelector('#who')")
	p.press("Sign out here")
	p.until("document.querySelector('#who')")
}
