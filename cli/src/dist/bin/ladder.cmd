@echo off
rem Starts Worn Ladder on Windows. Not tested there.
setlocal
set "JAVA=java"
if defined JAVA_HOME set "JAVA=%JAVA_HOME%\bin\java"
for %%J in ("%~dp0..\lib\worn-ladder-cli-*.jar") do set "JAR=%%~fJ"
"%JAVA%" -XX:+UseSerialGC -Dfile.encoding=UTF-8 "-Dladder.native=%~dp0..\lib\native" "-Dladder.drivers=%~dp0..\drivers" -jar "%JAR%" %*
exit /b %ERRORLEVEL%
