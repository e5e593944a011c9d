# What is installed, by package: `cli` needs no window system, `desktop` is what a person opens, `doc` is to read.
include(GNUInstallDirs)
set(share ${CMAKE_INSTALL_DATADIR})
set(desktop ${CMAKE_SOURCE_DIR}/packaging/desktop)
set(id org.octaphon.Octaphon)

# The demo's sounds are made where it is opened: they are large, and folders of the system cannot be worked in.
install(TARGETS octaphon-cli RUNTIME COMPONENT cli)
install(TARGETS octaphon-worker octaphon-demo octaphon-note-pages
        RUNTIME DESTINATION ${CMAKE_INSTALL_LIBEXECDIR}/octaphon COMPONENT cli
        LIBRARY DESTINATION ${CMAKE_INSTALL_LIBEXECDIR}/octaphon COMPONENT cli)
install(DIRECTORY ${OCTAPHON_MANUAL}/man1/ DESTINATION ${CMAKE_INSTALL_MANDIR}/man1 COMPONENT cli
        FILES_MATCHING PATTERN octaphon-cli*.1.gz PATTERN octaphon-worker.1.gz)
install(FILES ${OCTAPHON_MANUAL}/completions/octaphon-cli DESTINATION ${share}/bash-completion/completions COMPONENT cli)
install(FILES ${OCTAPHON_MANUAL}/completions/_octaphon-cli DESTINATION ${share}/zsh/vendor-completions COMPONENT cli)
install(FILES ${OCTAPHON_MANUAL}/completions/octaphon-cli.fish DESTINATION ${share}/fish/vendor_completions.d COMPONENT cli)
if(OCTAPHON_APP)
  install(TARGETS octaphon octaphon-receiver RUNTIME COMPONENT desktop)
  install(FILES ${OCTAPHON_MANUAL}/man1/octaphon.1.gz ${OCTAPHON_MANUAL}/man1/octaphon-receiver.1.gz
          DESTINATION ${CMAKE_INSTALL_MANDIR}/man1 COMPONENT desktop)
  install(FILES ${desktop}/${id}.desktop DESTINATION ${share}/applications COMPONENT desktop)
  configure_file(${desktop}/${id}.metainfo.xml.in ${CMAKE_BINARY_DIR}/packaging/${id}.metainfo.xml @ONLY)
  install(FILES ${CMAKE_BINARY_DIR}/packaging/${id}.metainfo.xml DESTINATION ${share}/metainfo COMPONENT desktop)
  install(FILES ${desktop}/${id}.mime.xml DESTINATION ${share}/mime/packages RENAME ${id}.xml COMPONENT desktop)
  set(icons ${share}/icons/hicolor)
  install(FILES ${desktop}/${id}.svg DESTINATION ${icons}/scalable/apps COMPONENT desktop)
  install(FILES ${desktop}/${id}-symbolic.svg DESTINATION ${icons}/symbolic/apps COMPONENT desktop)
  set(files application-x-octaphon-session application-x-octaphon-brief)
  foreach(file ${files})
    install(FILES ${desktop}/${file}.svg DESTINATION ${icons}/scalable/mimetypes COMPONENT desktop)
  endforeach()
  find_program(RSVG_CONVERT rsvg-convert REQUIRED)
  set(pictures)
  foreach(size 16 22 24 32 48 64 128 256 512)
    set(folder ${CMAKE_BINARY_DIR}/icons/${size}x${size})
    file(MAKE_DIRECTORY ${folder}/apps ${folder}/mimetypes)
    foreach(picture apps/${id} mimetypes/application-x-octaphon-session mimetypes/application-x-octaphon-brief)
      get_filename_component(name ${picture} NAME)
      add_custom_command(
        OUTPUT ${folder}/${picture}.png
        COMMAND ${RSVG_CONVERT} -w ${size} -h ${size} ${desktop}/${name}.svg -o ${folder}/${picture}.png
        DEPENDS ${desktop}/${name}.svg
        VERBATIM)
      list(APPEND pictures ${folder}/${picture}.png)
    endforeach()
  endforeach()
  add_custom_target(icons ALL DEPENDS ${pictures})
  install(DIRECTORY ${CMAKE_BINARY_DIR}/icons/ DESTINATION ${icons} COMPONENT desktop)
endif()

install(DIRECTORY ${CMAKE_SOURCE_DIR}/docs/ DESTINATION ${CMAKE_INSTALL_DOCDIR}-doc COMPONENT doc
        FILES_MATCHING PATTERN *.md PATTERN *.schema.json PATTERN import_manifest.py PATTERN *.png PATTERN manual EXCLUDE)
install(DIRECTORY ${CMAKE_BINARY_DIR}/chapters DESTINATION ${CMAKE_INSTALL_DOCDIR}-doc COMPONENT doc
        FILES_MATCHING PATTERN *.octaphon PATTERN *.flac PATTERN Deliveries EXCLUDE)
install(FILES ${CMAKE_SOURCE_DIR}/demo/Tidewheel.octaphon DESTINATION ${CMAKE_INSTALL_DOCDIR}-doc/demo COMPONENT doc)

# All of it, without what only tests and documents need.
add_custom_target(installed)
add_dependencies(installed octaphon-cli octaphon-worker octaphon-demo octaphon-note-pages manual chapters)
if(OCTAPHON_APP)
  add_dependencies(installed octaphon octaphon-receiver icons)
endif()
