#!/bin/sh
# Break the code in small ways, a sample of all, and count which breaks a test notices (mutmut). In a clone of what is
# committed, with an environment of its own: the project itself needs none of it.
# usage: tools/mutants.sh [SAMPLE] [PACKAGE...]     as: tools/mutants.sh 900 core/check core/layout
#        tools/mutants.sh [SAMPLE] kit            what runs and undoes macros, with tests that open windows
set -eu
root=$(cd "$(dirname "$0")/.." && pwd)
sample=${1:-900}
[ $# -gt 0 ] && shift
[ $# -gt 0 ] || set -- core/check core/layout
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
git clone -q "$root" "$work/clone"
"$root/.venv/bin/python" -m venv "$work/venv"
site=$("$work/venv/bin/python" -c 'import sysconfig; print(sysconfig.get_path("purelib"))')
"$root/.venv/bin/python" -c 'import sysconfig; print(sysconfig.get_path("purelib"))' > "$site/project.pth"
echo "$root/src" >> "$site/project.pth"
"$work/venv/bin/pip" install -q 'mutmut==3.8.1'
cd "$work/clone"
if [ "$1" = kit ]; then
  only='"src/rimecrest/kit/macros/run.py", "src/rimecrest/kit/macros/asker.py", "src/rimecrest/kit/documents/undo.py"'
  # Only to have the mutants made: which test reaches which is not asked.
  tests=tests/core/test_values.py
else
  only=$(printf '"src/rimecrest/%s/*", ' "$@")
  only=${only%, }
  tests=tests/core
fi
cat >> pyproject.toml <<EOF

[tool.mutmut]
source_paths = ["src"]
only_mutate = [$only]
also_copy = ["tools", "docs", "examples", "walks"]
pytest_add_cli_args_test_selection = ["$tests"]
# Faults are put into the system itself, and starts are timed by what is loaded: neither goes with a changed copy.
pytest_add_cli_args = ["-x", "--ignore", "tests/core/test_faults.py", "--ignore", "tests/core/test_damaged_packages.py",
  "--ignore", "tests/core/test_hostile_folders.py", "--ignore", "tests/core/test_start.py",
  "--ignore", "tests/core/test_fuzzing.py"]
track_dependencies = false
EOF
export QT_QPA_PLATFORM=offscreen
# Asked for none, it makes them all and learns which test reaches which.
"$work/venv/bin/mutmut" run nothing.of.that.name > made.log 2>&1 || true
"$work/venv/bin/python" "$root/tools/mutants.py" names "$sample" > names.txt
if [ "$1" = kit ]; then
  "$work/venv/bin/python" "$root/tools/mutants.py" apart names.txt
else
  xargs "$work/venv/bin/mutmut" run < names.txt > run.log 2>&1 || true
  "$work/venv/bin/python" "$root/tools/mutants.py" tell
fi
