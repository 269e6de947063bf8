#!/usr/bin/env bash
# Makes the files of the demo that are no photos, into demo/files: ffmpeg and Chromium are needed, here alone. Run after the photos.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
mkdir -p files
made=$(mktemp -d)
trap 'rm -rf "$made"' EXIT

# The night, seen by a slow eye: four photos, each moved across and faded into the next.
inputs=() filters="" chain="" n=0
for photo in MBK_4268 MBK_4257 MBK_4269 MBK_4260; do
  inputs+=(-loop 1 -t 5 -i "photos/$photo.jpg")
  filters+="[$n:v]scale=1280:720:force_original_aspect_ratio=increase,crop=1280:720,zoompan=z='1+0.0009*on':x='(iw-iw/zoom)*0.5':y='(ih-ih/zoom)*0.4':d=1:s=960x540:fps=24,setsar=1[v$n];"
  n=$((n + 1))
done
chain="[v0][v1]xfade=duration=1.2:offset=3.6[a];[a][v2]xfade=duration=1.2:offset=7.2[b];[b][v3]xfade=duration=1.2:offset=10.8[v]"
ffmpeg -v error -y "${inputs[@]}" -filter_complex "$filters$chain" -map '[v]' -t 15 -c:v libvpx-vp9 -b:v 0 -crf 40 -row-mt 1 -pix_fmt yuv420p "files/Night on the strand.webm"

# Wind that comes and goes, and surf behind it.
ffmpeg -v error -y \
  -f lavfi -i "anoisesrc=color=pink:seed=26:duration=24" -f lavfi -i "anoisesrc=color=brown:seed=13:duration=24" \
  -filter_complex "[0:a]bandpass=f=520:w=600,volume='0.35+0.25*sin(2*PI*t/7)*sin(2*PI*t/3.1)':eval=frame[wind];[1:a]lowpass=f=420,volume='0.7+0.5*sin(2*PI*t/9)':eval=frame[surf];[wind][surf]amix=inputs=2,afade=in:d=1.5,afade=out:st=22:d=2" \
  -c:a libopus -b:a 40k "files/Twelve knots from the south-west.ogg"

page() {
  cat <<HTML
<!doctype html><meta charset="utf-8"><style>
@page { size: A5; margin: 16mm 14mm }
body { font: 11pt/1.5 "Instrument Sans", "DejaVu Sans", sans-serif; color: #222 }
h1 { font-size: 20pt; line-height: 1.1; margin: 0 0 6mm } p, ol, table { margin: 0 0 4mm } td { padding: 1mm 6mm 1mm 0; border-top: .3pt solid #999; vertical-align: top }
footer { position: fixed; bottom: 0; font-size: 8pt; color: #666 }
</style><title>$1</title><h1>$1</h1>$2<footer>Marram Bay Kite Guild</footer>
HTML
}
pdf() {
  page "$1" "$2" >"$made/page.html"
  chromium --headless --no-sandbox --disable-gpu --no-pdf-header-footer --print-to-pdf="$made/page.pdf" "file://$made/page.html" 2>/dev/null
  mv "$made/page.pdf" "files/$1.pdf"
}
pdf "What a first kite needs" "<p>For one kite of ninety centimetres. The guild has all of it in the tea tent; bring scissors that cut.</p>
<table><tr><td>Cloth</td><td>One piece, 100 by 110 centimetres, and a strip for the tail</td></tr><tr><td>Ash</td><td>Two spars of 90 centimetres, eight millimetres thick, planed</td></tr><tr><td>Line</td><td>Thirty metres; fifty if somebody holds on to you</td></tr><tr><td>Thread</td><td>The strong one, in a colour that can be found again in marram</td></tr><tr><td>Glue</td><td>The kind that comes off with warm water</td></tr></table>
<p>Hem the cloth before you cut the corners. Tie the bridle so that the kite hangs with its nose a hand’s breadth higher than its tail.</p>"
pdf "Rules of the stunt final" "<ol><li>Two lines, one flier, four minutes. The clock begins when the kite leaves the sand.</li><li>Three figures are drawn from the hat; the fourth is the flier’s own.</li><li>A kite that touches the sea has landed.</li><li>The jury sits with its back to the sun and says nothing until the last line is down.</li><li>Below eight knots nobody flies, and nobody complains.</li></ol>"
