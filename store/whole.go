package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"time"
)

// WriteWhole makes a file that is there whole or not at all, whenever the machine stops: write
// fills a file of a temporary name in the same folder, which is synced, and takes the place of
// path then. It is readable by its owner alone. A write that fails leaves what was there.
func WriteWhole(path string, write func(temporary string) error) (err error) {
	folder, err := os.MkdirTemp(filepath.Dir(path), ".brackmoor-")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(folder)) }()
	temporary := filepath.Join(folder, filepath.Base(path))
	if err := write(temporary); err != nil {
		return err
	}
	if err := os.Chmod(temporary, 0o600); err != nil {
		return err
	}
	if err := synced(temporary); err != nil {
		return err
	}
	if err := os.Rename(temporary, path); err != nil {
		return err
	}
	return synced(filepath.Dir(path))
}

// synced has a file's or a folder's contents on disk.
func synced(path string) error {
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	return errors.Join(file.Sync(), file.Close())
}

// There refuses a name under which no database can be: a mistyped one makes no empty one.
func There(path string) error {
	info, err := os.Stat(path)
	switch {
	case errors.Is(err, os.ErrNotExist):
		return fmt.Errorf("there is no database %s", path)
	case err != nil:
		return err
	case info.IsDir():
		return fmt.Errorf("%s is a folder, no database", path)
	case info.Size() == 0:
		return fmt.Errorf("%s is empty, no database", path)
	}
	return nil
}

// Rotate writes a backup into a folder, named by the database and the time, and takes away the
// oldest so named there beyond so many. It returns the new one's name.
func (s *Store) Rotate(ctx context.Context, folder string, keep int, now time.Time) (made string, err error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return "", err
	}
	name := strings.TrimSuffix(filepath.Base(s.path), filepath.Ext(s.path))
	made = filepath.Join(folder, name+now.Format("-20060102-150405.db"))
	if err := s.Backup(ctx, made); err != nil {
		return "", err
	}
	all, err := os.ReadDir(folder) // in the order of their names, which is that of their times
	if err != nil {
		return made, err
	}
	dated := regexp.MustCompile("^" + regexp.QuoteMeta(name) + `-\d{8}-\d{6}\.db$`)
	var mine []string
	for _, one := range all {
		if dated.MatchString(one.Name()) {
			mine = append(mine, one.Name())
		}
	}
	for _, old := range mine[:max(0, len(mine)-keep)] {
		err = errors.Join(err, os.Remove(filepath.Join(folder, old)))
	}
	return made, err
}
