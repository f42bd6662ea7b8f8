package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"runtime/debug"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"
	_ "time/tzdata" // zones also where the system has none

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"kirdu/app"
	"kirdu/certs"
	"kirdu/demo"
	"kirdu/store"
	"kirdu/web"
	"kirdu/web/frame"
)

// defaultAddress is reachable from this machine only.
const defaultAddress = "127.0.0.1:8080"

func serveCommand() *cobra.Command {
	var address, data string
	var hosts []string
	var secure bool
	var copies string
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Start the application with your own kitchen",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			path, err := app.DataFile(data)
			if err != nil {
				return err
			}
			release, err := store.Hold(path, fmt.Sprintf("process %d, at %s, since %s", os.Getpid(), address,
				time.Now().Format("2006-01-02 15:04")))
			if err != nil {
				return err
			}
			defer release()
			return withKitchen(cmd, path, func(k *app.Kitchen, path string) error {
				fmt.Fprintf(cmd.OutOrStdout(), "Data file: %s\n", path)
				if copies == "" {
					copies = store.CopiesBeside(path)
				}
				keeping, ended := context.WithCancel(cmd.Context())
				done := make(chan struct{})
				go func() {
					defer close(done)
					k.Keep(keeping, copies)
				}()
				defer func() {
					ended()
					<-done // before the data file is closed
				}()
				o := web.Options{Kitchen: k, Hosts: hosts}
				if !secure {
					if loopback(address) {
						beside := &sample{log: k.Log}
						defer beside.end()
						o.Sample = beside.start
					}
					return run(cmd.Context(), cmd.OutOrStdout(), address, o, nil)
				}
				household, err := certs.Open(filepath.Join(filepath.Dir(path), "tls"), hosts, certs.Addresses, time.Now)
				if err != nil {
					return err
				}
				return run(cmd.Context(), cmd.OutOrStdout(), address, o, household)
			})
		},
	}
	cmd.Flags().StringVar(&address, "addr", defaultAddress, "address to listen on; any but the loopback asks for the passphrase")
	cmd.Flags().StringVar(&data, "data", "", "data file (default: kirdu.sqlite in your data folder)")
	cmd.Flags().StringVar(&copies, "copies", "", "folder of the daily copies (default: beside the data file)")
	cmd.Flags().BoolVar(&secure, "tls", false,
		"speak TLS with a certificate of the household's own, so that a phone at the stove stays awake and goes on without a connection")
	cmd.Flags().StringSliceVar(&hosts, "host", nil,
		"name that the application goes by on the home network, such as kitchen.local; may be given several times")
	return cmd
}

func demoCommand() *cobra.Command {
	var address string
	cmd := &cobra.Command{
		Use:   "demo",
		Short: "Start the application with a throwaway copy of the sample kitchen",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			log, err := newLogger(cmd, cmd.ErrOrStderr())
			if err != nil {
				return err
			}
			k, away, err := sampleKitchen(cmd.Context(), log)
			if err != nil {
				return err
			}
			defer away()
			fmt.Fprintln(cmd.OutOrStdout(), "Sample kitchen: a throwaway copy. What you do in it is gone when this program ends.")
			return run(cmd.Context(), cmd.OutOrStdout(), address, web.Options{Kitchen: k}, nil)
		},
	}
	cmd.Flags().StringVar(&address, "addr", defaultAddress, "address to listen on")
	return cmd
}

// sampleKitchen makes a throwaway copy of the sample kitchen; away closes and removes it.
func sampleKitchen(ctx context.Context, log *slog.Logger) (k *app.Kitchen, away func(), err error) {
	folder, err := os.MkdirTemp("", "kirdu-demo-")
	if err != nil {
		return nil, nil, err
	}
	k, err = app.Open(ctx, filepath.Join(folder, "demo.sqlite"), log)
	if err != nil {
		return nil, nil, errors.Join(err, os.RemoveAll(folder))
	}
	away = func() {
		k.Store.Close()
		os.RemoveAll(folder)
	}
	if err := demo.Fill(ctx, k); err != nil {
		away()
		return nil, nil, fmt.Errorf("fill the sample kitchen: %w", err)
	}
	return k, away, nil
}

// A sample is the sample kitchen beside somebody's own, started when it is first asked for, on an address of this
// machine alone.
type sample struct {
	log     *slog.Logger
	mutex   sync.Mutex
	address string
	ends    []func()
}

func (s *sample) start() (string, error) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	if s.address != "" {
		return s.address, nil
	}
	k, away, err := sampleKitchen(context.Background(), s.log)
	if err != nil {
		return "", err
	}
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		away()
		return "", err
	}
	server := web.NewServer(web.Options{Kitchen: k})
	go func() {
		if err := server.Serve(listener); !errors.Is(err, http.ErrServerClosed) {
			s.log.Error("the sample kitchen", "error", err)
		}
	}()
	s.ends = append(s.ends, func() { server.Close() }, away)
	s.address = "http://" + listener.Addr().String() + "/"
	return s.address, nil
}

func (s *sample) end() {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	for _, end := range s.ends {
		end()
	}
	s.ends = nil
}

func passphraseCommand() *cobra.Command {
	var data string
	cmd := &cobra.Command{
		Use:   "passphrase",
		Short: "Set the household's passphrase, asked for on any address but the loopback",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withKitchen(cmd, data, func(k *app.Kitchen, _ string) error {
				passphrase, err := readPassphrase(cmd.InOrStdin(), cmd.OutOrStdout())
				if err != nil {
					return err
				}
				if err := k.SetPassphrase(cmd.Context(), passphrase); err != nil {
					return err
				}
				fmt.Fprintln(cmd.OutOrStdout(), "The passphrase is set.")
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&data, "data", "", "data file (default: kirdu.sqlite in your data folder)")
	return cmd
}

// readPassphrase asks at a terminal without showing what is typed; from a pipe
// it takes the first line.
func readPassphrase(in io.Reader, out io.Writer) (string, error) {
	if file, ok := in.(*os.File); ok && term.IsTerminal(int(file.Fd())) {
		fmt.Fprint(out, "Passphrase (10 characters or more): ")
		typed, err := term.ReadPassword(int(file.Fd()))
		fmt.Fprintln(out)
		return string(typed), err
	}
	const most = 1 << 10
	data, err := io.ReadAll(io.LimitReader(in, most))
	first, _, _ := strings.Cut(string(data), "\n")
	return strings.TrimSuffix(first, "\r"), err
}

// withKitchen opens the cook's own data file, by default that of the data
// folder, and closes it afterwards.
func withKitchen(cmd *cobra.Command, given string, do func(k *app.Kitchen, path string) error) error {
	path, err := app.DataFile(given)
	if err != nil {
		return err
	}
	log, err := newLogger(cmd, cmd.ErrOrStderr())
	if err != nil {
		return err
	}
	k, err := app.Open(cmd.Context(), path, log)
	if err != nil {
		return err
	}
	defer k.Store.Close()
	return do(k, path)
}

// loopback reports whether an address can be reached from this machine only.
func loopback(address string) bool {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		return false
	}
	ip := net.ParseIP(host)
	return host == "localhost" || (ip != nil && ip.IsLoopback())
}

var errNoPassphrase = errors.New("this address can be reached from the network, so a passphrase is needed first; " +
	`set it with "kirdu passphrase"`)

// reached says where an address is reached: one that stands for all of this machine by each of them.
func reached(scheme string, address net.Addr, path string) string {
	host, port, err := net.SplitHostPort(address.String())
	if ip := net.ParseIP(host); err != nil || ip == nil || !ip.IsUnspecified() {
		return scheme + address.String() + path
	}
	places := []string{scheme + net.JoinHostPort("localhost", port) + path}
	own, err := certs.Addresses()
	if err != nil {
		return places[0]
	}
	for _, ip := range own {
		if ip.IsPrivate() && ip.To4() != nil {
			places = append(places, scheme+net.JoinHostPort(ip.String(), port)+path)
		}
	}
	return strings.Join(places, " and ")
}

// besides listens on the port after one, or on any if that is taken.
func besides(address net.Addr) (net.Listener, error) {
	host, port, err := net.SplitHostPort(address.String())
	if err != nil {
		return nil, err
	}
	if number, err := strconv.Atoi(port); err == nil {
		if listener, err := net.Listen("tcp", net.JoinHostPort(host, strconv.Itoa(number+1))); err == nil {
			return listener, nil
		}
	}
	return net.Listen("tcp", net.JoinHostPort(host, "0"))
}

// shutdownTime is how long requests may finish when the program ends.
const shutdownTime = 5 * time.Second

// softMemory is from where the collector works harder, so that a household's program stays small; GOMEMLIMIT says
// otherwise. Source: measured, see docs/performance.md.
const softMemory = 80 << 20 // bytes

// run serves until the context ends; over TLS if there is a household's certificate.
func run(ctx context.Context, out io.Writer, address string, o web.Options, household *certs.Household) error {
	if !loopback(address) {
		known, err := o.Kitchen.HasPassphrase(ctx)
		if err != nil {
			return err
		}
		if !known {
			return errNoPassphrase
		}
		o.Kitchen.Login = true
		o.Hosts = append([]string{}, o.Hosts...) // not nil: any IP address of this machine
	}
	listener, err := net.Listen("tcp", address)
	if errors.Is(err, syscall.EADDRINUSE) {
		return fmt.Errorf("the address %s is in use by another program (perhaps Kirdu runs already); choose another with --addr, such as "+
			"--addr 127.0.0.1:8081", address)
	}
	if err != nil {
		return fmt.Errorf("listen on %s: %w; choose another with --addr", address, err)
	}
	ended := make(chan error, 2) // one for each listener
	if household != nil {
		plain, err := besides(listener.Addr())
		if err != nil {
			return err
		}
		_, port, _ := net.SplitHostPort(listener.Addr().String())
		_, plainPort, _ := net.SplitHostPort(plain.Addr().String())
		o.Trust = &frame.Trust{DER: household.DER(), Fingerprint: household.Fingerprint(), Port: port, PlainPort: plainPort}
		steps := web.NewServer(o)
		steps.Handler = web.TrustHandler(o)
		defer steps.Close()
		fmt.Fprintf(out, "A phone learns to trust this kitchen at %s\n", reached("http://", plain.Addr(), "/trust"))
		fmt.Fprintf(out, "Fingerprint (SHA-256): %s\n", o.Trust.Fingerprint)
		go func() { ended <- steps.Serve(plain) }()
	}
	server := web.NewServer(o)
	if _, set := os.LookupEnv("GOMEMLIMIT"); !set {
		debug.SetMemoryLimit(softMemory)
	}
	if household != nil {
		server.TLSConfig = household.Config()
		fmt.Fprintf(out, "Kirdu is at %s (end it with Ctrl-C)\n", reached("https://", listener.Addr(), ""))
		go func() { ended <- server.ServeTLS(listener, "", "") }()
	} else {
		fmt.Fprintf(out, "Kirdu is at %s (end it with Ctrl-C)\n", reached("http://", listener.Addr(), ""))
		go func() { ended <- server.Serve(listener) }()
	}
	select {
	case err := <-ended:
		return err
	case <-ctx.Done():
	}
	closing, cancel := context.WithTimeout(context.WithoutCancel(ctx), shutdownTime)
	defer cancel()
	if err := server.Shutdown(closing); err != nil && !errors.Is(err, http.ErrServerClosed) {
		return fmt.Errorf("end: %w", err)
	}
	return nil
}
