package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/internal/testdb"
)

// TestMain lets the test binary stand in for the program, so that exit codes and streams are the real ones.
func TestMain(m *testing.M) {
	if os.Getenv("HODOS_TEST_AS_PROGRAM") == "1" {
		main()
		os.Exit(0)
	}
	os.Exit(m.Run())
}

type ran struct {
	code     int
	out, err string
}

func hodos(t *testing.T, stdin string, env []string, args ...string) ran {
	t.Helper()
	cmd := exec.Command(os.Args[0], args...)
	cmd.Env = append(append(os.Environ(), "HODOS_TEST_AS_PROGRAM=1"), env...)
	cmd.Stdin = strings.NewReader(stdin)
	var out, errs bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &errs
	err := cmd.Run()
	var exit *exec.ExitError
	if err != nil && !errors.As(err, &exit) {
		t.Fatal(err)
	}
	return ran{cmd.ProcessState.ExitCode(), out.String(), errs.String()}
}

const grubs = `{"hodos_case":1,"title":"East drive","date":"2026-08-14","site":{"latitude":38,"species":["tall-fescue"],"irrigated":true},"findings":{"pull-test":"lifts-like-carpet","grubs-per-m2":86}}`

func TestDiagnose(t *testing.T) {
	file := filepath.Join(t.TempDir(), "case.json")
	require.NoError(t, os.WriteFile(file, []byte(grubs), 0o600))
	r := hodos(t, "", nil, "diagnose", "--json", file)
	require.Zero(t, r.code, r.err)
	var a struct {
		Version   int `json:"hodos_diagnosis"`
		Knowledge string
		Causes    []struct {
			ID, Family  string
			Probability float64
			For         []struct {
				Finding string
				Value   any
				Bits    float64
			}
		}
		Actions []struct{ ID, Verdict string }
	}
	require.NoError(t, json.Unmarshal([]byte(r.out), &a))
	require.Equal(t, 1, a.Version)
	require.NotEmpty(t, a.Knowledge)
	require.Len(t, a.Causes, 79, "every cause stands in the answer")
	require.Len(t, a.Actions, 73)
	require.Equal(t, "white-grubs", a.Causes[0].ID)
	require.NotEmpty(t, a.Causes[0].For)

	require.Equal(t, r.out, hodos(t, "", nil, "diagnose", file, "--json").out, "the flag may stand behind the file")
	require.Equal(t, r.out, hodos(t, grubs, nil, "diagnose", "--json", "-").out, "standard input is a file, too")

	page := hodos(t, grubs, nil, "diagnose", "-")
	require.Zero(t, page.code)
	for _, words := range []string{"East drive, 14 August 2026", "White grubs", "DO NOW", "NEXT CHECK", "Pull test: lifts like a carpet",
		"label"} {
		require.Contains(t, page.out, words)
	}
}

func TestRefusalsGoToStandardErrorWithExitTwo(t *testing.T) {
	for _, c := range []struct{ name, file, want string }{
		{"unknown finding", strings.Replace(grubs, "grubs-per-m2", "gnomes-per-m2", 1), "findings.gnomes-per-m2: unknown finding"},
		{"out of range", strings.Replace(grubs, "86", "9000", 1), "findings.grubs-per-m2: 9000 is outside the physical range"},
		{"no JSON", "not a case", "not JSON"},
	} {
		r := hodos(t, c.file, nil, "diagnose", "--json", "-")
		require.Equal(t, 2, r.code, c.name)
		require.Empty(t, r.out, c.name)
		require.Contains(t, r.err, c.want, c.name)
	}
	require.Equal(t, 2, hodos(t, "", nil, "diagnose", "/no/such/file").code)
	require.Equal(t, 2, hodos(t, "", nil, "diagnose").code)
	require.Equal(t, 2, hodos(t, "", nil, "frobnicate").code)
	require.Equal(t, 2, hodos(t, "", nil).code)
}

func TestVersionAndDescription(t *testing.T) {
	require.Contains(t, hodos(t, "", nil, "version").out, "knowledge")
	r := hodos(t, "", nil, "openapi")
	require.Zero(t, r.code)
	written, err := os.ReadFile("../../server/openapi.json")
	require.NoError(t, err)
	require.Equal(t, string(written), r.out, "the written description is behind the Go types: make types")
}

func TestNewFirm(t *testing.T) {
	owner, app := testdb.New(t)
	env := []string{"HODOS_OWNER_DATABASE_URL=" + owner, "HODOS_DATABASE_URL=" + app}
	args := []string{"new-firm", "--name", "Fennel & Daughters", "--owner", "Ida Fennel", "--email", "Ida@fennel.example"}
	short := hodos(t, "short\n", env, args...)
	require.Equal(t, 2, short.code)
	require.Contains(t, short.err, "at least 10 characters")
	require.Zero(t, hodos(t, "a long pass phrase\n", env, args...).code)
	require.NotZero(t, hodos(t, "a long pass phrase\n", env, args...).code, "an address signs in one person")
	require.Equal(t, 1, hodos(t, "", []string{"HODOS_DATABASE_URL="}, "serve").code)
	require.Zero(t, hodos(t, "", env, "migrate").code)
	outside := hodos(t, "", env, "demo", "--listen", "0.0.0.0:1")
	require.Equal(t, 2, outside.code)
	require.Contains(t, outside.err, "loopback")
}
