package certs_test

import (
	"crypto/tls"
	"crypto/x509"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"kirdu/certs"
)

// A home is a machine whose addresses and clock the test sets.
type home struct {
	folder    string
	addresses []net.IP
	now       time.Time
}

func newHome(t *testing.T) *home {
	return &home{filepath.Join(t.TempDir(), "tls"), []net.IP{net.ParseIP("127.0.0.1"), net.ParseIP("192.168.4.20")},
		time.Date(2026, 11, 27, 9, 0, 0, 0, time.UTC)}
}

func (h *home) open(t *testing.T, names ...string) *certs.Household {
	t.Helper()
	household, err := certs.Open(h.folder, names, func() ([]net.IP, error) { return h.addresses, nil }, func() time.Time { return h.now })
	require.NoError(t, err)
	return household
}

func leaf(t *testing.T, h *certs.Household) *x509.Certificate {
	t.Helper()
	c, err := h.Config().GetCertificate(&tls.ClientHelloInfo{})
	require.NoError(t, err)
	return c.Leaf
}

// verify is what a phone does that trusts the household.
func (h *home) verify(t *testing.T, household *certs.Household, c *x509.Certificate, name string) error {
	t.Helper()
	roots := x509.NewCertPool()
	require.True(t, roots.AppendCertsFromPEM(household.PEM()))
	_, err := c.Verify(x509.VerifyOptions{Roots: roots, DNSName: name, CurrentTime: h.now})
	return err
}

func TestAPhoneTrustsTheHousehold(t *testing.T) {
	h := newHome(t)
	household := h.open(t, "kitchen.local")
	c := leaf(t, household)
	for _, name := range []string{"192.168.4.20", "kitchen.local", "localhost", "127.0.0.1"} {
		require.NoError(t, h.verify(t, household, c, name))
	}
	require.Error(t, h.verify(t, household, c, "192.168.4.99"))
	require.InDelta(t, 90*24, c.NotAfter.Sub(h.now).Hours(), 2)
	require.Len(t, household.Fingerprint(), 32*3-1)
	for _, name := range []string{"authority.key", "server.key"} {
		info, err := os.Stat(filepath.Join(h.folder, name))
		require.NoError(t, err)
		require.Equal(t, os.FileMode(0o600), info.Mode().Perm(), name)
	}
	again := h.open(t, "kitchen.local")
	require.Equal(t, household.Fingerprint(), again.Fingerprint(), "the authority stays")
	require.Equal(t, c.SerialNumber, leaf(t, again).SerialNumber, "so does the certificate")
}

// The certificate follows an address that changes, and is renewed a month before it ends.
func TestItFollowsTheAddressAndIsRenewed(t *testing.T) {
	h := newHome(t)
	household := h.open(t)
	first := leaf(t, household)
	h.addresses = append(h.addresses, net.ParseIP("10.0.0.7"))
	h.now = h.now.Add(2 * time.Minute)
	second := leaf(t, household)
	require.NotEqual(t, first.SerialNumber, second.SerialNumber)
	require.NoError(t, h.verify(t, household, second, "10.0.0.7"))
	h.now = h.now.Add(59 * 24 * time.Hour)
	require.Equal(t, second.SerialNumber, leaf(t, household).SerialNumber)
	h.now = h.now.Add(2 * 24 * time.Hour)
	third := leaf(t, household)
	require.NotEqual(t, second.SerialNumber, third.SerialNumber)
	require.NoError(t, h.verify(t, household, third, "10.0.0.7"))
}

// The authority vouches for nothing but the home network, and no public address gets in.
func TestOnlyForTheHome(t *testing.T) {
	h := newHome(t)
	h.addresses = append(h.addresses, net.ParseIP("203.0.113.9"))
	household := h.open(t)
	require.Error(t, h.verify(t, household, leaf(t, household), "203.0.113.9"))
	_, err := certs.Open(h.folder, []string{"kirdu.example.org"}, certs.Addresses, time.Now)
	require.ErrorIs(t, err, certs.ErrName)
	require.NoError(t, os.WriteFile(filepath.Join(h.folder, "authority.key"), []byte("gone"), 0o600))
	_, err = certs.Open(h.folder, nil, certs.Addresses, time.Now)
	require.ErrorContains(t, err, "move both away")
}

// A browser that trusts it speaks to the server.
func TestItSpeaks(t *testing.T) {
	household, err := certs.Open(t.TempDir(), nil, certs.Addresses, time.Now)
	require.NoError(t, err)
	plain, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	server := &http.Server{Handler: http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(http.StatusNoContent) }),
		ReadHeaderTimeout: time.Second}
	go func() { _ = server.Serve(tls.NewListener(plain, household.Config())) }()
	defer server.Close()
	roots := x509.NewCertPool()
	require.True(t, roots.AppendCertsFromPEM(household.PEM()))
	client := &http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: roots}}}
	response, err := client.Get("https://" + plain.Addr().String())
	require.NoError(t, err)
	require.NoError(t, response.Body.Close())
	require.Equal(t, http.StatusNoContent, response.StatusCode)
}
