package main

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"time"

	"brackmoor/core/shop"
	"brackmoor/store"
)

// open opens the database a --db flag names.
func open(ctx context.Context, path string) (*store.Store, error) {
	return store.Open(ctx, path, time.Now)
}

const defaultDB = "brackmoor.db"

func export(ctx context.Context, c *console, args []string) (err error) {
	set := flags(c, "export")
	db := set.String("db", defaultDB, "database file")
	if err := parse(set, args, 0, 1); err != nil {
		return err
	}
	st, err := open(ctx, *db)
	if err != nil {
		return err
	}
	defer func() { err = first(err, st.Close()) }()
	file, err := st.Export(ctx)
	if err != nil {
		return err
	}
	text, err := json.MarshalIndent(file, "", "  ")
	if err != nil {
		return err
	}
	text = append(text, '\n')
	if set.NArg() == 1 && set.Arg(0) != "-" {
		return os.WriteFile(set.Arg(0), text, 0o600)
	}
	_, err = c.out.Write(text)
	return err
}

func importFile(ctx context.Context, c *console, args []string) (err error) {
	set := flags(c, "import")
	db := set.String("db", defaultDB, "database file")
	if err := parse(set, args, 1, 1); err != nil {
		return err
	}
	text, err := readInput(c, set.Arg(0))
	if err != nil {
		return err
	}
	file, problems := shop.ReadFile(text)
	if problems != nil {
		return problemLines(problems)
	}
	st, err := open(ctx, *db)
	if err != nil {
		return err
	}
	defer func() { err = first(err, st.Close()) }()
	report, err := st.Import(ctx, file)
	if err != nil {
		return err
	}
	for _, line := range report.Lines {
		fmt.Fprintln(c.out, line)
	}
	fmt.Fprintf(c.out, "%d added, %d changed, %d as they were\n", report.Added, report.Changed, report.Unchanged)
	return nil
}

func backup(ctx context.Context, c *console, args []string) (err error) {
	set := flags(c, "backup")
	db := set.String("db", defaultDB, "database file")
	if err := parse(set, args, 1, 1); err != nil {
		return err
	}
	st, err := open(ctx, *db)
	if err != nil {
		return err
	}
	defer func() { err = first(err, st.Close()) }()
	return st.Backup(ctx, set.Arg(0))
}

// first is the first of two errors that is one.
func first(err, then error) error {
	if err != nil {
		return err
	}
	return then
}
