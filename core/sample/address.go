package sample

import (
	"net/netip"
	"strings"
)

// metadata are the addresses at which clouds tell a machine its own secrets.
var metadata = []netip.Addr{
	netip.MustParseAddr("fd00:ec2::254"),   // beside 169.254.169.254, which is link-local
	netip.MustParseAddr("100.100.100.200"), // another provider's
	netip.MustParseAddr("192.0.0.192"),
}

// NeverAsked reports whether a host is one that no keeper can allow: link-local addresses,
// by which clouds tell machines their secrets, and those that lead to nobody or to all.
func NeverAsked(host string) bool {
	host = strings.TrimSuffix(strings.ToLower(host), ".")
	if host == "metadata.google.internal" || host == "metadata" || host == "instance-data" {
		return true
	}
	ip, err := netip.ParseAddr(strings.Trim(host, "[]"))
	if err != nil {
		return false
	}
	ip = ip.Unmap().WithZone("")
	for _, m := range metadata {
		if ip == m {
			return true
		}
	}
	return ip.IsLinkLocalUnicast() || ip.IsLinkLocalMulticast() || ip.IsInterfaceLocalMulticast() ||
		ip.IsMulticast() || ip.IsUnspecified()
}

// Inside reports whether a host is named as one of the server's own network; a keeper
// allows it one by one, knowing that.
func Inside(host string) bool {
	if host == "localhost" || strings.HasSuffix(host, ".localhost") {
		return true
	}
	ip, err := netip.ParseAddr(strings.Trim(host, "[]"))
	return err == nil && (ip.Unmap().IsPrivate() || ip.Unmap().IsLoopback())
}
