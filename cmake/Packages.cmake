# Debian packages, by CPack: from the same build folder and flags as everything else here, with Debian's own tools for what
# they depend on. (A debian/ of its own would build all of it once more, with other flags than those that are tested.)
set(CPACK_GENERATOR DEB)
set(CPACK_PACKAGE_NAME octaphon)
set(CPACK_PACKAGE_DESCRIPTION_SUMMARY "")  # each package has its own
set(CPACK_PACKAGE_CONTACT "The Octaphon authors <authors@octaphon.example>")
set(CPACK_PACKAGING_INSTALL_PREFIX /usr)
set(CPACK_STRIP_FILES ON)
set(CPACK_COMPONENTS_ALL cli doc)
if(OCTAPHON_APP)
  list(APPEND CPACK_COMPONENTS_ALL desktop)
endif()
set(CPACK_DEB_COMPONENT_INSTALL ON)
set(CPACK_DEBIAN_FILE_NAME DEB-DEFAULT)
set(CPACK_DEBIAN_PACKAGE_SECTION sound)
set(CPACK_DEBIAN_PACKAGE_PRIORITY optional)
set(CPACK_PRE_BUILD_SCRIPTS ${CMAKE_SOURCE_DIR}/cmake/PackageTimes.cmake)
set(of_this "(= ${PROJECT_VERSION})")

# octaphon_package(COMPONENT NAME DESCRIPTION)
macro(octaphon_package component name description)
  string(TOUPPER ${component} COMPONENT)
  set(CPACK_DEBIAN_${COMPONENT}_PACKAGE_NAME ${name})
  set(CPACK_DEBIAN_${COMPONENT}_DESCRIPTION "${description}")
  foreach(file copyright changelog.gz)
    install(FILES ${CMAKE_BINARY_DIR}/packaging/${file} DESTINATION ${CMAKE_INSTALL_DATADIR}/doc/${name} COMPONENT ${component})
  endforeach()
endmacro()
octaphon_package(cli octaphon-cli
  "Render many named files from one session, command line
Octaphon makes the many files that a game, a library or an exhibit needs from\nthe regions, markers and tracks of one session: variations and layers, stems,\nalbums, one piece in several exact lengths.\n.\nThis package has the command line, which needs no window system, and the\nprogram that plug-ins run in.")
octaphon_package(desktop octaphon
  "Render many named files from one session
Octaphon makes the many files that a game, a library or an exhibit needs from\nthe regions, markers and tracks of one session: variations and layers, stems,\nalbums, one piece in several exact lengths.\n.\nThis package has the desktop program, and a stand-in for whoever receives a\ndelivery.")
octaphon_package(doc octaphon-doc
  "Guide, formats and small sessions of Octaphon
Octaphon makes the many files that a game, a library or an exhibit needs from\nthe regions, markers and tracks of one session.\n.\nThis package has the guide, what the files mean that Octaphon reads and\nwrites, the demo's session, and a small session for each\nchapter of the guide.")
set(CPACK_DEBIAN_CLI_PACKAGE_SHLIBDEPS ON)
set(CPACK_DEBIAN_DESKTOP_PACKAGE_SHLIBDEPS ON)
set(CPACK_DEBIAN_DESKTOP_PACKAGE_DEPENDS "octaphon-cli ${of_this}")
set(CPACK_DEBIAN_DESKTOP_PACKAGE_RECOMMENDS "octaphon-doc, qt6-wayland, qt6-gtk-platformtheme | qt6-xdgdesktopportal-platformtheme")
set(CPACK_DEBIAN_CLI_PACKAGE_SUGGESTS "lv2-examples")
set(CPACK_DEBIAN_DOC_PACKAGE_ARCHITECTURE all)
set(CPACK_DEBIAN_DOC_PACKAGE_SECTION doc)

file(MAKE_DIRECTORY ${CMAKE_BINARY_DIR}/packaging)
configure_file(${CMAKE_SOURCE_DIR}/packaging/copyright ${CMAKE_BINARY_DIR}/packaging/copyright COPYONLY)
execute_process(COMMAND gzip -9nc ${CMAKE_SOURCE_DIR}/packaging/changelog
                OUTPUT_FILE ${CMAKE_BINARY_DIR}/packaging/changelog.gz COMMAND_ERROR_IS_FATAL ANY)
include(CPack)
