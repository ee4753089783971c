package main

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"brackmoor/server/passphrase"
	"brackmoor/store"
)

// roleNames are the names of the roles in their order.
func roleNames() (list []string) {
	for _, r := range store.Roles {
		list = append(list, r.Name)
	}
	return list
}

func peopleCommand(c *console) *cobra.Command {
	roles := []string{}
	for _, r := range store.Roles {
		roles = append(roles, fmt.Sprintf("  %-9s %s", r.Name, r.Title))
	}
	cmd := &cobra.Command{
		Use:   "people",
		Short: "Say who signs in by name, and what they may do",
		Long: "Once there is anybody, everybody signs in by name and a passphrase of their own, and the shop's one " +
			"opens nothing any more. What they do is written down under their name. Each role may what those before " +
			"it may:\n\n" + strings.Join(roles, "\n") + "\n\nWho runs this command at the machine itself may always.",
		Args: words(0, 0, "add, list, role, passphrase, end or sign-ins"),
	}
	db := cmd.PersistentFlags().String("db", defaultDB, "database file")
	role := ""
	type doing = func(ctx context.Context, st *store.Store, args []string) (string, error)
	one := func(use, short, example string, do doing, least, most int, what string) *cobra.Command {
		sub := &cobra.Command{Use: use, Short: short, Example: example, Args: words(least, most, what)}
		sub.RunE = work(func(ctx context.Context, args []string) (err error) {
			st, err := open(ctx, *db)
			if err != nil {
				return err
			}
			defer func() { err = first(err, st.Close()) }()
			says, err := do(ctx, st, args)
			if err != nil {
				return told(err)
			}
			fmt.Fprintln(c.out, says)
			return nil
		})
		cmd.AddCommand(sub)
		return sub
	}
	add := one("add NAME", "Take somebody in; their passphrase is asked for",
		"  brackmoor people add \"Ada\" --role measures --db shop.db",
		func(ctx context.Context, st *store.Store, args []string) (string, error) {
			hash, err := newHash(c)
			if err != nil {
				return "", err
			}
			return args[0] + " signs in from now on.", st.AddPerson(ctx, args[0], role, hash)
		}, 1, 1, "one name")
	add.Flags().StringVar(&role, "role", store.Roles[0].Name, "what they may do: "+strings.Join(roleNames(), ", "))
	one("role NAME ROLE", "Change what somebody may do", "  brackmoor people role Ada plans --db shop.db",
		func(ctx context.Context, st *store.Store, args []string) (string, error) {
			return args[0] + " is of the role " + args[1] + " from now on.", st.ChangePerson(ctx, args[0], args[1], "")
		}, 2, 2, "a name and a role")
	one("passphrase NAME", "Give somebody a new passphrase; where they are signed in ends",
		"  brackmoor people passphrase Ada --db shop.db",
		func(ctx context.Context, st *store.Store, args []string) (string, error) {
			hash, err := newHash(c)
			if err != nil {
				return "", err
			}
			return "The passphrase of " + args[0] + " is set.", st.ChangePerson(ctx, args[0], "", hash)
		}, 1, 1, "one name")
	one("end NAME", "Let go of somebody; what they wrote stays", "  brackmoor people end Ada --db shop.db",
		func(ctx context.Context, st *store.Store, args []string) (string, error) {
			return args[0] + " comes in no more.", st.EndPerson(ctx, args[0])
		}, 1, 1, "one name")
	one("list", "List them", "  brackmoor people list --db shop.db",
		func(ctx context.Context, st *store.Store, _ []string) (string, error) {
			people, err := st.People(ctx)
			if len(people) == 0 {
				return "Nobody signs in by name.", err
			}
			lines := []string{}
			for _, p := range people {
				lines = append(lines, fmt.Sprintf("%s\t%s\tsince %s", p.Name, p.Role, p.Made[:len(time.DateOnly)]))
			}
			return strings.Join(lines, "\n"), err
		}, 0, 0, "flags alone")
	ended := ""
	signIns := one("sign-ins", "List where people are signed in, or end one",
		"  brackmoor people sign-ins --db shop.db\n  brackmoor people sign-ins --end ID --db shop.db",
		func(ctx context.Context, st *store.Store, _ []string) (string, error) {
			if ended != "" {
				return "It has ended.", st.EndSignIn(ctx, "", ended)
			}
			list, err := st.SignIns(ctx, "", time.Time{})
			if len(list) == 0 {
				return "Nobody is signed in by name.", err
			}
			lines := []string{}
			for _, i := range list {
				lines = append(lines, fmt.Sprintf("%s\t%s\t%s\t%s\t%s", i.ID, i.Name, i.At, i.Address, i.Agent))
			}
			return strings.Join(lines, "\n"), err
		}, 0, 0, "flags alone")
	signIns.Flags().StringVar(&ended, "end", "", "end the one of this id")
	return cmd
}

// told makes what was wrong with what was given a fault of the input.
func told(err error) error {
	if slices.ContainsFunc([]error{store.ErrName, store.ErrNamed, store.ErrRole, store.ErrNobody, store.ErrNotFound},
		func(known error) bool { return errors.Is(err, known) }) {
		return bad("Nothing was changed: %s.", err)
	}
	return err
}

// newHash asks for a passphrase and makes its hash.
func newHash(c *console) (string, error) {
	text, err := askPassphrase(c)
	if err != nil {
		return "", err
	}
	if !passphrase.Long(text) {
		return "", bad("The passphrase must have at least %d characters.", passphrase.Least)
	}
	return passphrase.Hash(text, passphrase.Production), nil
}
