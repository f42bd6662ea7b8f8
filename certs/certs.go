// Package certs makes a household its own certificate authority, so that phones in the home
// network can open the application over TLS: a browser keeps a screen on, and works through a
// dropped connection, over TLS only.
package certs

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"math/big"
	"net"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
)

// How long certificates last. A phone takes no leaf of more than 398 days; ours is renewed by
// itself, so it may be short.
const (
	authorityLasts = 10 * 365 * 24 * time.Hour
	leafLasts      = 90 * 24 * time.Hour
	renewBefore    = 30 * 24 * time.Hour
	backdated      = time.Hour // clocks of phones differ
	secret         = 0o600
	readable       = 0o644
	folderMode     = 0o700
)

// The names and addresses that the authority may vouch for: those of a home network, and of
// nobody else in the world, should its key ever get out. Sources: RFC 1918, 3927, 4193, 4291,
// 6762 and 8375.
var (
	privateNames = []string{"local", "home.arpa", "internal", "lan", "localhost"}
	privateNets  = []string{"10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8", "fc00::/7", "fe80::/10",
		"::1/128"}
)

// ErrName is given for a name that is not one of a home network.
var ErrName = errors.New("the household's certificate is good for names of the home network only: those that end in .local, .home.arpa, " +
	".internal or .lan")

// A Household is an authority with its folder. It is safe for several requests at once.
type Household struct {
	folder    string
	names     []string
	addresses func() ([]net.IP, error)
	now       func() time.Time

	authority *x509.Certificate
	key       *ecdsa.PrivateKey

	mutex   sync.Mutex
	leaf    *tls.Certificate
	checked time.Time
}

// Open reads the authority of a folder, or makes it there. names are those that the application
// goes by on the home network; addresses lists the addresses of this machine. Errors: ErrName, and
// those of the files.
func Open(folder string, names []string, addresses func() ([]net.IP, error), now func() time.Time) (*Household, error) {
	for _, name := range names {
		if !isPrivate(name) {
			return nil, fmt.Errorf("%w; it cannot be %s", ErrName, name)
		}
	}
	if err := os.MkdirAll(folder, folderMode); err != nil {
		return nil, err
	}
	h := &Household{folder: folder, names: names, addresses: addresses, now: now}
	certificate, key, err := readPair(h.path("authority"))
	if errors.Is(err, os.ErrNotExist) {
		certificate, key, err = h.makeAuthority()
	}
	if err != nil {
		return nil, fmt.Errorf("the household's certificate authority in %s: %w", folder, err)
	}
	h.authority, h.key = certificate, key
	if _, err := h.current(); err != nil {
		return nil, err
	}
	return h, nil
}

func isPrivate(name string) bool {
	name = strings.ToLower(name)
	return slices.ContainsFunc(privateNames, func(zone string) bool { return name == zone || strings.HasSuffix(name, "."+zone) })
}

func (h *Household) path(name string) string { return filepath.Join(h.folder, name) }

// Config is how a server speaks TLS with the household's certificate.
func (h *Household) Config() *tls.Config {
	return &tls.Config{MinVersion: tls.VersionTLS12, NextProtos: []string{"h2", "http/1.1"},
		GetCertificate: func(*tls.ClientHelloInfo) (*tls.Certificate, error) { return h.current() }}
}

// PEM is the certificate of the authority, which a phone is to trust.
func (h *Household) PEM() []byte { return encode("CERTIFICATE", h.authority.Raw) }

// DER is the same as phones take it.
func (h *Household) DER() []byte { return h.authority.Raw }

// Fingerprint is the SHA-256 digest of the authority's certificate, as phones show it.
func (h *Household) Fingerprint() string {
	digest := sha256.Sum256(h.authority.Raw)
	parts := make([]string, len(digest))
	for i, b := range digest {
		parts[i] = fmt.Sprintf("%02X", b)
	}
	return strings.Join(parts, ":")
}

// recheck is how often the addresses of the machine are looked at.
const recheck = time.Minute

// current returns the certificate of the server. It is made anew when an address of the machine
// is not in it, and a month before it ends.
func (h *Household) current() (*tls.Certificate, error) {
	h.mutex.Lock()
	defer h.mutex.Unlock()
	now := h.now()
	if h.leaf != nil && now.Sub(h.checked) < recheck && now.Before(h.leaf.Leaf.NotAfter.Add(-renewBefore)) {
		return h.leaf, nil
	}
	addresses, err := h.addresses()
	if err != nil {
		return nil, err
	}
	addresses = slices.DeleteFunc(slices.Clone(addresses), func(ip net.IP) bool { return !inNets(ip) })
	if h.leaf == nil {
		if certificate, key, err := readPair(h.path("server")); err == nil {
			h.leaf = &tls.Certificate{Certificate: [][]byte{certificate.Raw, h.authority.Raw}, PrivateKey: key, Leaf: certificate}
		}
	}
	if h.leaf == nil || !h.serves(h.leaf.Leaf, addresses) {
		if h.leaf, err = h.issue(addresses); err != nil {
			return nil, err
		}
	}
	h.checked = now
	return h.leaf, nil
}

func inNets(ip net.IP) bool {
	for _, one := range privateNets {
		if _, block, _ := net.ParseCIDR(one); block.Contains(ip) {
			return true
		}
	}
	return false
}

// serves reports whether a certificate is ours, lasts, and has every name and address in it.
func (h *Household) serves(c *x509.Certificate, addresses []net.IP) bool {
	now := h.now()
	if c.CheckSignatureFrom(h.authority) != nil || now.Before(c.NotBefore) || !now.Before(c.NotAfter.Add(-renewBefore)) {
		return false
	}
	for _, ip := range addresses {
		if c.VerifyHostname(ip.String()) != nil {
			return false
		}
	}
	for _, name := range h.names {
		if c.VerifyHostname(name) != nil {
			return false
		}
	}
	return true
}

func (h *Household) makeAuthority() (*x509.Certificate, *ecdsa.PrivateKey, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, nil, err
	}
	now := h.now()
	var nets []*net.IPNet
	for _, one := range privateNets {
		_, block, err := net.ParseCIDR(one)
		if err != nil {
			return nil, nil, err
		}
		nets = append(nets, block)
	}
	template := &x509.Certificate{
		SerialNumber: serial(), Subject: pkix.Name{CommonName: "Kirdu of this household, " + now.Format("2 January 2006")},
		NotBefore: now.Add(-backdated), NotAfter: now.Add(authorityLasts), IsCA: true, BasicConstraintsValid: true, MaxPathLenZero: true,
		KeyUsage: x509.KeyUsageCertSign | x509.KeyUsageDigitalSignature, PermittedDNSDomainsCritical: true,
		PermittedDNSDomains: privateNames, PermittedIPRanges: nets,
	}
	return h.sign("authority", template, template, key, key)
}

func (h *Household) issue(addresses []net.IP) (*tls.Certificate, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, err
	}
	now := h.now()
	template := &x509.Certificate{
		SerialNumber: serial(), Subject: pkix.Name{CommonName: "Kirdu"}, NotBefore: now.Add(-backdated), NotAfter: now.Add(leafLasts),
		KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth},
		DNSNames: append([]string{"localhost"}, h.names...), IPAddresses: addresses,
	}
	certificate, _, err := h.sign("server", template, h.authority, key, h.key)
	if err != nil {
		return nil, err
	}
	return &tls.Certificate{Certificate: [][]byte{certificate.Raw, h.authority.Raw}, PrivateKey: key, Leaf: certificate}, nil
}

// sign makes a certificate and stores it, the key first: a certificate without its key is of no
// use.
func (h *Household) sign(name string, template, parent *x509.Certificate, key, by *ecdsa.PrivateKey) (*x509.Certificate, *ecdsa.PrivateKey,
	error) {
	der, err := x509.CreateCertificate(rand.Reader, template, parent, &key.PublicKey, by)
	if err != nil {
		return nil, nil, err
	}
	certificate, err := x509.ParseCertificate(der)
	if err != nil {
		return nil, nil, err
	}
	raw, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return nil, nil, err
	}
	if err := write(h.path(name+".key"), encode("PRIVATE KEY", raw), secret); err != nil {
		return nil, nil, err
	}
	return certificate, key, write(h.path(name+".pem"), encode("CERTIFICATE", der), readable)
}

func serial() *big.Int {
	const bits = 120
	n, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), bits))
	if err != nil {
		panic(err) // the system has no randomness
	}
	return n.Add(n, big.NewInt(1))
}

func encode(kind string, raw []byte) []byte {
	return pem.EncodeToMemory(&pem.Block{Type: kind, Bytes: raw})
}

// write replaces a file as a whole.
func write(path string, data []byte, mode os.FileMode) error {
	part := path + ".part"
	if err := os.WriteFile(part, data, mode); err != nil {
		return err
	}
	if err := os.Chmod(part, mode); err != nil {
		return err
	}
	return os.Rename(part, path)
}

var errPair = errors.New("the certificate and its key do not belong together, or cannot be read; move both away to have new ones made " +
	"(phones must then trust the new one)")

func readPair(path string) (*x509.Certificate, *ecdsa.PrivateKey, error) {
	raw, err := os.ReadFile(path + ".pem")
	if err != nil {
		return nil, nil, err
	}
	rawKey, err := os.ReadFile(path + ".key")
	if err != nil {
		return nil, nil, err
	}
	block, _ := pem.Decode(raw)
	keyBlock, _ := pem.Decode(rawKey)
	if block == nil || keyBlock == nil {
		return nil, nil, errPair
	}
	certificate, err := x509.ParseCertificate(block.Bytes)
	if err != nil {
		return nil, nil, errPair
	}
	key, err := x509.ParsePKCS8PrivateKey(keyBlock.Bytes)
	if err != nil {
		return nil, nil, errPair
	}
	private, ok := key.(*ecdsa.PrivateKey)
	if !ok || !private.PublicKey.Equal(certificate.PublicKey) {
		return nil, nil, errPair
	}
	return certificate, private, nil
}

// Addresses lists the addresses of this machine.
func Addresses() ([]net.IP, error) {
	list, err := net.InterfaceAddrs()
	if err != nil {
		return nil, err
	}
	var all []net.IP
	for _, one := range list {
		if block, ok := one.(*net.IPNet); ok {
			all = append(all, block.IP)
		}
	}
	return all, nil
}
