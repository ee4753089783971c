package store

import (
	"context"
	"crypto/rand"
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
)

// Role is what somebody may do: each what those before it may, too.
type Role struct {
	Name  string `json:"name"`
	Title string `json:"title"`
}

// Roles in their order.
var Roles = []Role{
	{"reads", "reads, and tries what would be"},
	{"measures", "writes down readings, ticks, notes and photos"},
	{"plans", "changes plates, ways, parts and the floor, and signs"},
	{"drives", "writes to drives, and turns a motor by one"},
}

// May says whether a role may do what another may.
func May(role, needs string) bool {
	place := func(name string) int { return slices.IndexFunc(Roles, func(r Role) bool { return r.Name == name }) }
	return place(role) >= place(needs) && place(role) >= 0
}

// Person is somebody who signs in by name. Hash is of the passphrase. Ended is when they were let go of, "" for never.
type Person struct {
	ID    string `json:"id"`
	Name  string `json:"name"`
	Role  string `json:"role"`
	Hash  string `json:"-"`
	Made  string `json:"made"`
	Ended string `json:"ended"`
}

// SignIn is a session of somebody, from where and by what.
type SignIn struct {
	ID      string `json:"id"`
	Person  string `json:"-"`
	Name    string `json:"-"`
	At      string `json:"at"`
	Address string `json:"address"`
	Agent   string `json:"agent"`
}

// MostPeople is how many there may be who have not ended, and mostName how long a name is.
const (
	MostPeople = 200
	mostName   = 40
)

// The reasons why somebody is not taken in.
var (
	ErrName    = fmt.Errorf("a name is 1 to %d characters, without < or > and without blanks at its ends", mostName)
	ErrNamed   = errors.New("somebody has this name already")
	ErrRole    = errors.New("there is no such role")
	ErrNobody  = errors.New("nobody has this name")
	errCrowded = &FullError{MostPeople, "people"}
)

func (s *Store) today() string { return s.now().UTC().Format(time.RFC3339) }

// AddPerson takes somebody in.
func (s *Store) AddPerson(ctx context.Context, name, role, hash string) error {
	long := len([]rune(name)) > mostName
	switch {
	case name == "" || long || strings.ContainsAny(name, "<>\n\t") || strings.TrimSpace(name) != name:
		return ErrName
	case !May(role, Roles[0].Name):
		return ErrRole
	}
	return s.write(ctx, func(tx *transaction) error {
		var there, alike int
		err := tx.QueryRowContext(ctx,
			"SELECT COUNT(*), COALESCE(SUM(name = ? COLLATE NOCASE), 0) FROM people WHERE ended = ''", name).
			Scan(&there, &alike)
		switch {
		case err != nil:
			return err
		case alike > 0:
			return ErrNamed
		case there >= MostPeople:
			return errCrowded
		}
		_, err = tx.ExecContext(ctx, "INSERT INTO people (id, name, role, hash, made) VALUES (?, ?, ?, ?, ?)",
			rand.Text(), name, role, hash, s.today())
		return err
	})
}

// ChangePerson changes what is given of somebody: a role, a passphrase's hash, or both; a new passphrase ends all that
// was signed in by the old one.
func (s *Store) ChangePerson(ctx context.Context, name, role, hash string) error {
	if role != "" && !May(role, Roles[0].Name) {
		return ErrRole
	}
	return s.changePerson(ctx, name,
		"UPDATE people SET role = CASE WHEN ?2 = '' THEN role ELSE ?2 END, "+
			"hash = CASE WHEN ?3 = '' THEN hash ELSE ?3 END WHERE name = ?1 COLLATE NOCASE AND ended = ''", role, hash)
}

// EndPerson lets go of somebody: what they wrote stays under their name, and they come in no more.
func (s *Store) EndPerson(ctx context.Context, name string) error {
	return s.changePerson(
		ctx,
		name,
		"UPDATE people SET ended = ?2 WHERE name = ?1 COLLATE NOCASE AND ended = ''",
		s.today(),
	)
}

func (s *Store) changePerson(ctx context.Context, name, how string, with ...any) error {
	return s.write(ctx, func(tx *transaction) error {
		result, err := tx.ExecContext(ctx, how, append([]any{name}, with...)...)
		if err != nil {
			return err
		}
		if n, err := result.RowsAffected(); err != nil || n == 0 {
			return errors.Join(err, ErrNobody)
		}
		return nil
	})
}

// People are those who have not ended, by name.
func (s *Store) People(ctx context.Context) ([]Person, error) {
	return collect(ctx, s.DB, func(rows *sql.Rows) (p Person, err error) {
		return p, rows.Scan(&p.ID, &p.Name, &p.Role, &p.Hash, &p.Made, &p.Ended)
	}, "SELECT id, name, role, hash, made, ended FROM people WHERE ended = '' ORDER BY name COLLATE NOCASE")
}

// Peopled says whether anybody signs in by name.
func (s *Store) Peopled(ctx context.Context) (yes bool, err error) {
	err = s.DB.QueryRowContext(ctx, "SELECT EXISTS (SELECT 1 FROM people WHERE ended = '')").Scan(&yes)
	return yes, err
}

// SignIn begins a session of somebody, and says by which id.
func (s *Store) SignIn(ctx context.Context, person, address, agent string) (id string, err error) {
	const most = 200
	if r := []rune(agent); len(r) > most {
		agent = string(r[:most])
	}
	id = rand.Text()
	return id, s.write(ctx, func(tx *transaction) error {
		_, err := tx.ExecContext(ctx,
			"INSERT INTO sign_ins (id, person_id, at, address, agent) VALUES (?, ?, ?, ?, ?)",
			id, person, s.today(), address, agent)
		return err
	})
}

// SignedIn is who a session is of, nil where it or they have ended.
func (s *Store) SignedIn(ctx context.Context, signIn string) (*Person, error) {
	p := Person{}
	err := s.DB.QueryRowContext(ctx, "SELECT p.id, p.name, p.role, p.hash, p.made FROM sign_ins s "+
		"JOIN people p ON p.id = s.person_id WHERE s.id = ? AND s.ended = '' AND p.ended = ''", signIn).
		Scan(&p.ID, &p.Name, &p.Role, &p.Hash, &p.Made)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	return &p, err
}

// SignIns are the sessions of one person, or of everybody for "", the latest first, that were begun since and have not
// ended.
func (s *Store) SignIns(ctx context.Context, person string, since time.Time) ([]SignIn, error) {
	return collect(ctx, s.DB, func(rows *sql.Rows) (i SignIn, err error) {
		return i, rows.Scan(&i.ID, &i.Person, &i.Name, &i.At, &i.Address, &i.Agent)
	}, "SELECT s.id, p.id, p.name, s.at, s.address, s.agent FROM sign_ins s JOIN people p ON p.id = s.person_id "+
		"WHERE s.ended = '' AND p.ended = '' AND s.at >= ?2 AND (?1 = '' OR p.id = ?1) ORDER BY s.at DESC, s.id",
		person, since.UTC().Format(time.RFC3339))
}

// EndSignIn ends a session of somebody, or anybody's for "".
func (s *Store) EndSignIn(ctx context.Context, person, id string) error {
	return s.write(ctx, func(tx *transaction) error {
		result, err := tx.ExecContext(ctx,
			"UPDATE sign_ins SET ended = ?3 WHERE id = ?2 AND ended = '' AND (?1 = '' OR person_id = ?1)",
			person, id, s.today())
		if err != nil {
			return err
		}
		if n, err := result.RowsAffected(); err != nil || n == 0 {
			return errors.Join(err, ErrNotFound)
		}
		return nil
	})
}

type whoKey struct{}

// WithWho says by name who does what is done in this context.
func WithWho(ctx context.Context, name string) context.Context {
	return context.WithValue(ctx, whoKey{}, name)
}

// Who is that name, "" where nobody is known by name.
func Who(ctx context.Context) string {
	name, _ := ctx.Value(whoKey{}).(string)
	return name
}
