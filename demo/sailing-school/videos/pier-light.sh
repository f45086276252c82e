#!/usr/bin/env bash
# Draws the pier light by night, two flashes every six seconds, as pier-light.webm. Needs ffmpeg.
cd "$(dirname "${BASH_SOURCE[0]}")"
lit="lt(mod(t\,6)\,0.5)+between(mod(t\,6)\,1.5\,2)"
ffmpeg -v error -y -f lavfi -i "color=c=0x101a2c:s=480x270:r=12:d=12" -vf "
drawbox=x=0:y=200:w=480:h=70:color=0x0a1220:t=fill,
drawbox=x=225:y=110:w=30:h=90:color=0x8a8f98:t=fill,
drawbox=x=225:y=135:w=30:h=16:color=0xa03a2c:t=fill,
drawbox=x=225:y=170:w=30:h=16:color=0xa03a2c:t=fill,
drawbox=x=0:y=196:w=260:h=14:color=0x4a4640:t=fill,
drawbox=x=219:y=104:w=42:h=6:color=0x4a4640:t=fill,
drawbox=x=228:y=84:w=24:h=20:color=0x2c3340:t=fill,
drawbox=x=222:y=78:w=36:h=6:color=0x4a4640:t=fill,
drawbox=x=120:y=90:w=240:h=8:color=0xff6a55@0.35:t=fill:enable='$lit',
drawbox=x=170:y=87:w=140:h=14:color=0xff6a55@0.5:t=fill:enable='$lit',
drawbox=x=228:y=84:w=24:h=20:color=0xffb3a6:t=fill:enable='$lit'
" -c:v libvpx -b:v 120k -an pier-light.webm
