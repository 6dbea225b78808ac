package main

import (
	"bytes"
	"encoding/json"
	"math"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/simulation"
)

// plain builds the program without the race detector, which would make a long run ten times as long.
func plain(t *testing.T) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "hodos")
	out, err := exec.Command("go", "build", "-o", file, ".").CombinedOutput()
	require.NoError(t, err, string(out))
	return file
}

func played(t *testing.T, program string, args ...string) map[simulation.Strategy]simulation.Score {
	t.Helper()
	var out, errs bytes.Buffer
	cmd := exec.Command(program, append([]string{"simulate", "--json"}, args...)...)
	cmd.Stdout, cmd.Stderr = &out, &errs
	require.NoError(t, cmd.Run(), errs.String())
	require.Contains(t, errs.String(), "] ", "a long run shows how far it is")
	var r simulation.Report
	require.NoError(t, json.Unmarshal(out.Bytes(), &r))
	by := map[simulation.Strategy]simulation.Score{}
	for _, s := range r.Of {
		by[s.Strategy] = s
	}
	return by
}

// TestManyLawns holds what the scales promise, on lawns of the tables and on lawns of worlds that differ from them:
// what is said at 0.1 and more is as true as it is said to be, and the next best check is as right as every check in its
// order, in far less time. docs/simulation.md has the figures of ten thousand.
func TestManyLawns(t *testing.T) {
	program := plain(t)
	for name, c := range map[string]struct {
		led  simulation.Strategy
		args []string
	}{
		"as the tables say": {simulation.Sampled, []string{"--lawns", "600", "--seed", "7", "--strategies", "fixed,sampled"}},
		"as they do not":    {simulation.Next, []string{"--lawns", "300", "--seed", "8", "--spread", "0.4", "--strategies", "fixed,next"}},
	} {
		t.Run(name, func(t *testing.T) {
			by := played(t, program, c.args...)
			fixed, next := by[simulation.Fixed], by[c.led]
			t.Logf("fixed %.3f right in %.1f min, regret %.1f, next %.3f in %.1f min, regret %.1f; worst bins %.3f and %.3f", fixed.Accuracy(),
				fixed.Minutes, fixed.Regret, next.Accuracy(), next.Minutes, next.Regret, fixed.Worst(), next.Worst())
			require.Greater(t, fixed.Accuracy(), .75)
			require.GreaterOrEqual(t, next.Accuracy(), fixed.Accuracy()-.02, "the next best check must find what all of them find")
			require.LessOrEqual(t, next.Minutes, .33*fixed.Minutes)
			// of a few hundred lawns the difference is known to about 3 %
			require.LessOrEqual(t, next.Regret, 1.06*fixed.Regret, "what is decided on it may cost hardly more")
			for _, score := range []simulation.Score{fixed, next} {
				// a bin of a small run is judged by the nearer end of its interval, all of them together by their mean gap
				require.Empty(t, score.Beyond(.05), score.Strategy)
				require.LessOrEqual(t, meanGap(score.Bins), .055, score.Strategy)
			}
		})
	}
}

// meanGap is the mean distance between what was said and what was so, by how often it was said.
func meanGap(bins []simulation.Bin) float64 {
	sum, n := 0.0, 0.0
	for _, b := range bins {
		sum, n = sum+float64(b.N)*math.Abs(b.Gap()), n+float64(b.N)
	}
	return sum / n
}

func TestSimulateRefuses(t *testing.T) {
	for _, c := range []struct {
		args []string
		why  string
	}{
		{[]string{"--lawns", "0"}, "lawns: 0 is outside"},
		{[]string{"--wrong", "0.9"}, "wrong: 0.9 is outside"},
		{[]string{"--strategies", "guess"}, `strategy: "guess"`},
		{[]string{"case.json"}, "takes no file"},
	} {
		r := hodos(t, "", nil, append([]string{"simulate"}, c.args...)...)
		require.Equal(t, 2, r.code, c.args)
		require.Contains(t, r.err, c.why)
	}
	r := hodos(t, "", nil, "simulate", "--lawns", "3", "--quiet", "--strategies", "free", "--markdown")
	require.Zero(t, r.code, r.err)
	require.Contains(t, r.out, "| free |")
	require.Empty(t, r.err)
}
