package main

import (
	"errors"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

func TestMailServer(t *testing.T) {
	m, err := mailServer()
	require.NoError(t, err)
	require.Nil(t, m, "links are handed over by hand")
	t.Setenv("HODOS_MAIL_SERVER", "smtp://mail.example")
	_, err = mailServer()
	var r refused
	require.True(t, errors.As(err, &r), "nobody is named whom letters come from")
	t.Setenv("HODOS_MAIL_FROM", "office@averley.example")
	m, err = mailServer()
	require.NoError(t, err)
	require.NotNil(t, m)
}

func TestJobOptions(t *testing.T) {
	o, err := jobOptions()
	require.NoError(t, err)
	require.Zero(t, o.Rescue, "the server's own figure")
	t.Setenv("HODOS_JOB_RESCUE", "90s")
	t.Setenv("HODOS_JOB_WORKERS", "3")
	o, err = jobOptions()
	require.NoError(t, err)
	require.Equal(t, 90*time.Second, o.Rescue)
	require.Equal(t, 3, o.Workers)
	for name, bad := range map[string][]string{"HODOS_JOB_RESCUE": {"90", "10ms", "-3m"}, "HODOS_JOB_WORKERS": {"0", "many", "65"}} {
		for _, text := range bad {
			t.Run(name+"="+text, func(t *testing.T) {
				t.Setenv(name, text)
				_, err := jobOptions()
				var r refused
				require.True(t, errors.As(err, &r))
				require.Contains(t, err.Error(), name)
			})
		}
	}
}
