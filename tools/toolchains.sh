#!/bin/sh
# Gets the toolchains that are missing, where the system's packages allow it. Does nothing when all are there.
# What cannot be had here is said by `urform targets`, and shown as not run by `urform verify`.
set -u

major_of() { "$@" 2>&1 | sed -n 's/[^0-9]*\([0-9][0-9]*\).*/\1/p' | head -n 1; }

# The packages of Rust, if they are new enough; those of an older system would be installed for nothing.
rust_of_the_system() {
    offered=$(apt-cache policy rustc 2>/dev/null | sed -n 's/ *Candidate: 1\.\([0-9]*\).*/\1/p')
    if [ "${offered:-0}" -ge 83 ]; then
        echo "rustc cargo"
    else
        echo "missing: Rust 1.83, and this system offers none; install it with the Rust project's own installer" >&2
    fi
}

wanted=""
java=$(command -v javac >/dev/null 2>&1 && major_of javac -version || echo 0)
[ "${java:-0}" -ge 17 ] || wanted="$wanted openjdk-17-jdk-headless"
command -v mvn >/dev/null 2>&1 || wanted="$wanted maven"
node=$(command -v node >/dev/null 2>&1 && major_of node --version || echo 0)
[ "${node:-0}" -ge 20 ] || wanted="$wanted nodejs"
command -v npm >/dev/null 2>&1 || wanted="$wanted npm"
minor=$(command -v go >/dev/null 2>&1 && go version | sed -n 's/.*go1\.\([0-9]*\).*/\1/p' || echo 0)
[ "${minor:-0}" -ge 22 ] || wanted="$wanted golang-go"

minor=$(command -v rustc >/dev/null 2>&1 && rustc --version | sed -n 's/rustc 1\.\([0-9]*\).*/\1/p' || echo 0)
[ "${minor:-0}" -ge 83 ] || wanted="$wanted $(rust_of_the_system)"
gcc=$(command -v g++ >/dev/null 2>&1 && g++ -dumpversion | sed -n 's/^\([0-9]*\).*/\1/p' || echo 0)
[ "${gcc:-0}" -ge 11 ] || wanted="$wanted g++"
[ -e /usr/include/gtest/gtest.h ] || wanted="$wanted libgtest-dev"
command -v cmake >/dev/null 2>&1 || wanted="$wanted cmake"
command -v dot >/dev/null 2>&1 || wanted="$wanted graphviz"

[ -n "${wanted# }" ] || exit 0
echo "missing:$wanted"
if ! command -v apt-get >/dev/null 2>&1; then
    echo "this system has no apt-get; install them by hand"
    exit 0
fi
as_root=""
if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null 2>&1 || { echo "not root and no sudo; install them by hand"; exit 0; }
    as_root="sudo"
fi
$as_root apt-get update -q
for package in $wanted; do
    DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y -q "$package" || echo "apt-get could not install $package"
done
exit 0
