package main

import (
	"fmt"
	"net"
	"os"
	"os/signal"
	"strconv"
	"syscall"

	"github.com/spf13/cobra"

	"ubiquant/server/registry"
	"ubiquant/server/service"
)

func registryCommand() *cobra.Command {
	var port int
	c := &cobra.Command{
		Use:   "registry FOLDER...",
		Short: "Offer packages of this machine as a registry does, on loopback",
		Long: `Offers the packages of folders, or all those of a node_modules, as a registry does: for
libraries that are built here, and for machines that reach no registry. Nothing is stored;
Ctrl+C ends it.`,
		Example: "  ubiquant registry ./packages/orchard-ui ./node_modules\n  ubiquant intake @acme/orchard-ui --registry http://127.0.0.1:4786",
		Args:    cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			s := &registry.StandIn{}
			for _, dir := range args {
				if err := s.AddFolder(dir); err != nil {
					return &exitError{exitBroken, err}
				}
			}
			at, stop, err := service.Serve(net.JoinHostPort("127.0.0.1", strconv.Itoa(port)), s)
			if err != nil {
				return &exitError{exitBroken, err}
			}
			defer stop()
			fmt.Fprintf(cmd.OutOrStdout(), "Packages are offered on %s\n", at)
			for _, name := range s.Names() {
				fmt.Fprintln(cmd.OutOrStdout(), "  "+name)
			}
			ctx, cancel := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer cancel()
			<-ctx.Done()
			return nil
		},
	}
	c.Flags().IntVar(&port, "port", 4786, "port on 127.0.0.1; a free one where it is taken")
	return c
}
