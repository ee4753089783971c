package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"time"

	"github.com/spf13/cobra"

	"brackmoor/core/shop"
	"brackmoor/store"
)

// open opens the database a --db flag names, which must be there: only serving makes one.
func open(ctx context.Context, path string) (*store.Store, error) {
	if err := store.There(path); err != nil {
		return nil, err
	}
	return store.Open(ctx, path, time.Now)
}

// read opens the database a --db flag names to be read alone: nothing of it changes, and it may be
// where nothing can be written.
func read(ctx context.Context, path string) (*store.Store, error) {
	if err := store.There(path); err != nil {
		return nil, err
	}
	return store.Read(ctx, path)
}

const defaultDB = "brackmoor.db"

// database gives a command its --db flag.
func database(cmd *cobra.Command) *string {
	return cmd.Flags().String("db", defaultDB, "database file")
}

func exportCommand(c *console) *cobra.Command {
	cmd := &cobra.Command{
		Use:     "export [OUT.json]",
		Short:   "Write all shops as JSON",
		Example: "  brackmoor export --db shop.db shops.json",
		Args:    words(0, 1, "one file at most"),
	}
	db := database(cmd)
	force := cmd.Flags().Bool("force", false, "write over a file that holds something else")
	cmd.RunE = work(func(ctx context.Context, args []string) (err error) {
		st, err := read(ctx, *db)
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
		if len(args) == 1 && args[0] != "-" {
			if err := ours(args[0], *db, *force); err != nil {
				return err
			}
			return store.WriteWhole(
				args[0],
				func(temporary string) error { return os.WriteFile(temporary, text, 0o600) },
			)
		}
		_, err = c.out.Write(text)
		return err
	})
	return cmd
}

// ours refuses to write shops over a file that holds something else, unless it is forced, and
// over their own database in any case.
func ours(path, db string, force bool) error {
	is, err := os.Stat(path)
	if errors.Is(err, os.ErrNotExist) {
		return nil
	}
	if err != nil {
		return err
	}
	if kept, err := os.Stat(db); err == nil && os.SameFile(is, kept) {
		return fmt.Errorf("%s is the database itself", path)
	}
	if force {
		return nil
	}
	text, err := os.ReadFile(path)
	if err == nil && !bytes.Contains(text, []byte(`"`+shop.Format+`"`)) || bytes.HasPrefix(text, []byte("SQLite")) {
		err = fmt.Errorf("%s is there and holds no exported shops; take it away first, or give --force", path)
	}
	return err
}

func importCommand(c *console) *cobra.Command {
	cmd := &cobra.Command{
		Use:     "import IN.json",
		Short:   "Merge shops from JSON, all or nothing",
		Example: "  brackmoor import shops.json --db shop.db",
		Args:    words(1, 1, "one file"),
	}
	db := database(cmd)
	older := cmd.Flags().
		String("older", "keep", "what becomes of what was changed here since: keep it, or take the file's")
	preview := cmd.Flags().Bool("preview", false, "say what would be done, and do nothing")
	cmd.RunE = work(func(ctx context.Context, args []string) (err error) {
		if *older != "keep" && *older != "take" {
			return bad("--older is keep or take")
		}
		text, err := readInput(c, args[0])
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
		report, err := st.Import(ctx, file, store.Choice{Older: *older == "take", Preview: *preview})
		if err != nil {
			return err
		}
		for _, line := range report.Lines {
			fmt.Fprintln(c.out, line)
		}
		fmt.Fprintf(
			c.out,
			"%d added, %d changed, %d as they were, %d kept as they are here\n",
			report.Added,
			report.Changed,
			report.Unchanged,
			report.Kept,
		)
		return nil
	})
	return cmd
}

func backupCommand(c *console) *cobra.Command {
	cmd := &cobra.Command{
		Use:   "backup OUT",
		Short: "Copy the database consistently, also while it serves",
		Example: "  brackmoor backup --db shop.db monday.db\n" +
			"  brackmoor backup --db shop.db --keep 7 backups",
		Args: words(1, 1, "one file, or one folder with --keep"),
	}
	db := database(cmd)
	keep := cmd.Flags().Int("keep", 0, "write a dated file into the folder OUT, and keep so many of the newest there")
	cmd.RunE = work(func(ctx context.Context, args []string) (err error) {
		if *keep < 0 || *keep > 1000 {
			return bad("--keep is a number of backups, at most 1000")
		}
		st, err := read(ctx, *db)
		if err != nil {
			return err
		}
		defer func() { err = first(err, st.Close()) }()
		if *keep == 0 {
			return st.Backup(ctx, args[0])
		}
		made, err := st.Rotate(ctx, args[0], *keep, time.Now())
		if err == nil {
			fmt.Fprintln(c.out, made)
		}
		return err
	})
	return cmd
}

func checkCommand(c *console) *cobra.Command {
	cmd := &cobra.Command{
		Use:     "check",
		Short:   "Look through a database without changing it, and say what is wrong and what to do",
		Example: "  brackmoor check --db shop.db",
		Args:    words(0, 0, "flags alone"),
	}
	db := database(cmd)
	cmd.RunE = work(func(ctx context.Context, _ []string) error {
		found, err := store.Check(ctx, *db, time.Now())
		if err != nil {
			return err
		}
		for _, f := range found {
			fmt.Fprintln(c.out, f.Says+" "+f.Do)
		}
		switch len(found) {
		case 0:
			fmt.Fprintln(c.out, *db+" is sound.")
			return nil
		case 1:
			return errors.New("one thing is wrong")
		}
		return fmt.Errorf("%d things are wrong", len(found))
	})
	return cmd
}

func restoreCommand(c *console) *cobra.Command {
	cmd := &cobra.Command{
		Use:     "restore BACKUP",
		Short:   "Put a backup in the database's place, and keep what was there under a dated name",
		Example: "  brackmoor restore --db shop.db monday.db",
		Args:    words(1, 1, "one file"),
	}
	db := database(cmd)
	cmd.RunE = work(func(ctx context.Context, args []string) error {
		kept, err := store.Restore(ctx, *db, args[0], time.Now())
		if err != nil {
			return err
		}
		fmt.Fprintf(c.out, "%s is %s now\n", *db, args[0])
		if kept != "" {
			fmt.Fprintf(c.out, "what was there is kept as %s\n", kept)
		}
		return nil
	})
	return cmd
}

// first is the first of two errors that is one.
func first(err, then error) error {
	if err != nil {
		return err
	}
	return then
}
