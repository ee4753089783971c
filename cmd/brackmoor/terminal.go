package main

import (
	"bufio"
	"fmt"
	"os"
	"strings"

	"golang.org/x/term"
)

// askPassphrase reads a passphrase: unseen and twice at a terminal, one line
// from anything else.
func askPassphrase(c *console) (string, error) {
	file, ok := c.in.(*os.File)
	if !ok || !term.IsTerminal(int(file.Fd())) {
		line, err := bufio.NewReader(c.in).ReadString('\n')
		if err != nil && line == "" {
			return "", &inputError{[]string{"No passphrase was given on standard input."}}
		}
		return strings.TrimRight(line, "\r\n"), nil
	}
	ask := func(prompt string) (string, error) {
		fmt.Fprint(c.err, prompt)
		text, err := term.ReadPassword(int(file.Fd()))
		fmt.Fprintln(c.err)
		return string(text), err
	}
	text, err := ask("New passphrase: ")
	if err != nil {
		return "", err
	}
	again, err := ask("Once more: ")
	if err != nil {
		return "", err
	}
	if text != again {
		return "", &inputError{[]string{"The two differ; nothing was set."}}
	}
	return text, nil
}
