package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"kirdu/core/design"
	"kirdu/core/measure"
	"kirdu/core/plan"
)

// balanced is what the command prints.
type balanced struct {
	Plan    *plan.Plan         `json:"plan"`
	Changes []design.Change    `json:"changes"`
	Reached map[string]float64 `json:"reached"`
	Missed  []design.Miss      `json:"missed"`
}

func balanceCommand() *cobra.Command {
	var set, lock []string
	command := &cobra.Command{
		Use:   "balance FILE|- --set thickness=5 --set sweet=13 --set bowls=8 --lock rice-short",
		Short: "Print the plan with the smallest change that meets the aims",
		Long: "Finds the smallest change of amounts and reduction that brings a plan to its aims as it is served.\n" +
			"Aims: thickness (1 to 8), sweet (per cent), bowls, doneness.PART (0 to 10). --lock keeps a material,\n" +
			"or \"mark\" the reduction, \"time\" how long it cooks, \"flame\".\n" +
			"Without --set the aims that stand in the plan count.",
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			data, err := readPlanFile(args[0], cmd.InOrStdin())
			if err != nil {
				return err
			}
			p, err := plan.Read(data)
			if err == nil {
				err = knownLocks(p, lock)
			}
			var aims design.Aims
			if err == nil {
				aims, err = readAims(p, set)
			}
			if faults, ok := errors.AsType[measure.Faults](err); ok {
				fmt.Fprintln(cmd.ErrOrStderr(), faults)
				return exitError{faultsCode}
			} else if err != nil {
				return err
			}
			result := design.Balance(p, aims, lock)
			out, err := json.MarshalIndent(balanced{result.Plan, result.Changes, result.Reached, result.Missed}, "", " ")
			if err != nil {
				return fmt.Errorf("write the balanced plan: %w", err)
			}
			_, err = fmt.Fprintln(cmd.OutOrStdout(), string(out))
			return err
		},
	}
	command.Flags().StringArrayVar(&set, "set", nil, "an aim, such as thickness=5, sweet=13, bowls=8 or doneness.rice-short=1.6")
	command.Flags().StringArrayVar(&lock, "lock", nil, "what must stay: a material of the plan, mark, time or flame")
	return command
}

// Faults of the flags.
var (
	errAim      = errors.New("give thickness, sweet, bowls or doneness.PART and a number, such as thickness=5")
	errLock     = errors.New("is nothing of this plan; lock a material that it uses, mark, time or flame")
	errNoAim    = errors.New("nothing is aimed at; give --set thickness=5, or put an aim into the plan")
	aimBounds   = map[string][2]float64{"thickness": {1, 8}, "sweet": {0, 60}, "bowls": {1, 500}}
	errAimRange = "give a number from %v to %v"
)

// readAims reads the aims of the flags, or those of the plan if there are none.
func readAims(p *plan.Plan, set []string) (design.Aims, error) {
	var aims design.Aims
	var faults measure.Faults
	fault := func(text string, err error) {
		faults = append(faults, &measure.FieldError{Field: "--set", Value: strconv.Quote(text), Err: err})
	}
	for _, text := range set {
		name, number, _ := strings.Cut(text, "=")
		bounds, known := aimBounds[name]
		part, isDone := strings.CutPrefix(name, "doneness.")
		if isDone && part != "" {
			bounds, known = [2]float64{0, 10}, true
		}
		value, err := strconv.ParseFloat(number, 64)
		switch {
		case !known || err != nil:
			fault(text, errAim)
		case !(value >= bounds[0] && value <= bounds[1]) || name == "bowls" && value != float64(int(value)):
			fault(text, fmt.Errorf(errAimRange, bounds[0], bounds[1]))
		case isDone:
			if aims.Done == nil {
				aims.Done = map[string]float64{}
			}
			aims.Done[part] = value
		case name == "thickness":
			aims.Thickness = &value
		case name == "sweet":
			aims.Sweet = &value
		default:
			bowls := int(value)
			aims.Bowls = &bowls
		}
	}
	if len(set) == 0 && p.Aim != nil {
		aims.Thickness, aims.Sweet, aims.Done = p.Aim.Thickness, p.Aim.SweetPct, p.Aim.Doneness
	}
	if len(faults) == 0 && aims.Thickness == nil && aims.Sweet == nil && aims.Bowls == nil && len(aims.Done) == 0 {
		faults = append(faults, &measure.FieldError{Field: "--set", Err: errNoAim})
	}
	return aims, faults.Err()
}

// knownLocks refuses a lock that would lock nothing: a slip of the pen.
func knownLocks(p *plan.Plan, locks []string) error {
	var faults measure.Faults
	used := map[string]bool{design.MarkLock: true, design.TimeLock: true, design.FlameLock: true}
	for i := range p.Steps {
		for _, item := range p.Steps[i].Items {
			used[item.Material] = true
		}
	}
	for _, lock := range locks {
		if !used[lock] || lock == "" {
			faults = append(faults, &measure.FieldError{Field: "--lock", Value: strconv.Quote(lock), Err: errLock})
		}
	}
	return faults.Err()
}
